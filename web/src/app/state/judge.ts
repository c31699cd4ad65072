import {
  checkRulesOfYard,
  type Finding,
  findingsOf,
  type PieceDocument,
  type PieceSurroundings,
  stampsOf,
  type Tally,
  type YardRules,
} from '@yard-brace/core';

/** A document with what is to be said about it. */
export interface Judged {
  document: PieceDocument;
  findings: Finding[];
  tally: Tally;
}

/** The findings and stamps of a piece by the rules of its yard, for the yard's default target. */
export function judge(document: PieceDocument, rules: YardRules, around: PieceSurroundings): Judged {
  const findings = findingsOf(document, checkRulesOfYard(document, rules), around);
  return { document, findings, tally: stampsOf(document, findings, around) };
}
