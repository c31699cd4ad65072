/**
 * A mesh name from what a person calls the piece: words joined with capitals, numbers set off by an
 * underscore and at least two digits long. "Slip winch 2" becomes "SlipWinch_02".
 */
export function meshNameFrom(pieceName: string): string {
  const words =
    pieceName
      .normalize('NFKD')
      .replace(/[\u0300-\u036f]/g, '')
      .match(/[A-Za-z]+|[0-9]+/g) ?? [];
  const name = words
    .map((word) => (/^\d/.test(word) ? `_${word.padStart(2, '0')}` : word[0]!.toUpperCase() + word.slice(1)))
    .join('');
  if (!name) return 'Piece';
  return name.startsWith('_') ? `Piece${name}` : name;
}

export interface NameRules {
  /** the inside of a regular-expression class, e.g. `A-Za-z0-9_` */
  legalCharacters: string;
  longest: number;
}

/** What keeps a name from being delivered, as a sentence; null when nothing does. */
export function nameFault(name: string, rules: NameRules): string | null {
  if (name === '') return 'The name is empty.';
  const illegal = [
    ...new Set([...name].filter((c) => !new RegExp(`^[${rules.legalCharacters}]$`, 'u').test(c))),
  ];
  if (illegal.length) {
    const list = illegal
      .slice(0, 5)
      .map((c) => (c === ' ' ? 'a space' : /\p{C}/u.test(c) ? 'a control character' : `“${c}”`));
    return `The name holds ${list.join(', ')}, which the target does not take.`;
  }
  if (name.length > rules.longest)
    return `The name has ${name.length} characters, and the target takes ${rules.longest}.`;
  return null;
}

/** The name with every illegal character replaced by an underscore, cut to length; never empty. */
export function legalName(name: string, rules: NameRules): string {
  const legal = name.replace(new RegExp(`[^${rules.legalCharacters}]+`, 'gu'), '_').slice(0, rules.longest);
  return legal.replace(/^_+|_+$/g, '') || 'Piece';
}
