/** A name as USD takes one: letters, digits and underscores, no digit in front. */
export function identifierFrom(name: string): string {
  const legal = name.replace(/[^A-Za-z0-9_]/g, '_');
  return /^\d/.test(legal) || legal === '' ? `_${legal}` : legal;
}

/** Identifiers made of names, each different among its like. */
export class Identifiers {
  private readonly taken = new Set<string>();

  for(name: string): string {
    const legal = identifierFrom(name);
    let own = legal;
    for (let i = 2; this.taken.has(own); i++) own = `${legal}_${i}`;
    this.taken.add(own);
    return own;
  }
}
