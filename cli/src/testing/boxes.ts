/** Boxes by least and greatest corner, as one OBJ file of several objects. */
export const boxes = (...list: [number, number, number, number, number, number][]): string => {
  const lines: string[] = [];
  list.forEach(([x, y, z, X, Y, Z], i) => {
    lines.push(`o box_${i}`);
    for (const [a, b, c] of [
      [x, y, z],
      [X, y, z],
      [X, Y, z],
      [x, Y, z],
      [x, y, Z],
      [X, y, Z],
      [X, Y, Z],
      [x, Y, Z],
    ])
      lines.push(`v ${a} ${b} ${c}`);
    for (const face of ['1 4 3 2', '5 6 7 8', '1 2 6 5', '3 4 8 7', '1 5 8 4', '2 3 7 6'])
      lines.push(
        `f ${face
          .split(' ')
          .map((v) => Number(v) + i * 8)
          .join(' ')}`,
      );
  });
  return `${lines.join('\n')}\n`;
};
