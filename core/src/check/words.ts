/** "1 shape", "1,204 shapes". */
export const counted = (count: number, one: string, many = `${one}s`) =>
  `${count.toLocaleString('en-GB')} ${count === 1 ? one : many}`;
export const metres = (value: number) => `${value.toPrecision(3)} m`;
