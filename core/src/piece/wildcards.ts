/**
 * Whether a text is as a pattern says, whatever its case: “*” stands for any characters, “?” for one.
 *
 * @example matchesWildcards('Leaf_01', 'leaf_*') // true
 */
export function matchesWildcards(text: string, pattern: string): boolean {
  const [t, p] = [text.toLowerCase(), pattern.toLowerCase()];
  let at = 0;
  let i = 0;
  // Where the last star stood, and where what it stands for ends so far: no more is ever gone back to.
  let star = -1;
  let ends = 0;
  while (at < t.length) {
    if (i < p.length && p[i] === '*') {
      star = i++;
      ends = at;
    } else if (i < p.length && (p[i] === '?' || p[i] === t[at])) {
      i++;
      at++;
    } else if (star >= 0) {
      i = star + 1;
      at = ++ends;
    } else return false;
  }
  while (p[i] === '*') i++;
  return i === p.length;
}
