const HEAD = ['What is done', 'How often', 'Acknowledged', 'Refused', 'Lost', 'Torn', 'Back after at most'];

/** A drill and what came of it as cells of the table. */
export function rowOf({ title }, { skipped, done, back, acknowledged, refused, lost, torn }) {
  if (skipped) return [title, `not done: ${skipped}`, '', '', '', '', ''];
  const all = Object.entries(acknowledged).map(([what, count]) => `${count} ${what}`);
  return [title, done, all.join(', '), refused, lost, torn, back ? `${back.toFixed(1)} s` : ''];
}

/** As Markdown. */
export function drillTable(rows) {
  const line = (cells) => `| ${cells.join(' | ')} |`;
  return [line(HEAD), line(HEAD.map(() => '---')), ...rows.map(line)].join('\n');
}
