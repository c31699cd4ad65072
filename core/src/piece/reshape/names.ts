/** The next free name that counts up: after "fender" comes "fender_01", after "fender_02" "fender_03". */
export function countUp(base: string, taken: ReadonlySet<string>): string {
  const [, stem = base, separator = '_', digits] = /^(.*?)([_.\- ]?)(\d+)$/.exec(base) ?? [];
  const padding = Math.max(2, digits?.length ?? 0);
  for (let number = Number(digits ?? 0) + 1; ; number++) {
    const name = `${stem}${digits === undefined ? '_' : separator}${String(number).padStart(padding, '0')}`;
    if (!taken.has(name)) return name;
  }
}
