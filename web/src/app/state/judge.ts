import {
  type Agent,
  checkRulesOf,
  type Finding,
  findingsOf,
  judgedAgent,
  type PieceDocument,
  type PieceSurroundings,
  PREFIX_TAGS,
  profileById,
  stampsOf,
  type Tally,
} from '@yard-brace/core';

/** A document with what is to be said about it. */
export interface Judged {
  document: PieceDocument;
  findings: Finding[];
  tally: Tally;
}

/** The findings and stamps of a piece, for those who collide in its yard. */
export function judge(document: PieceDocument, agents: readonly Agent[], around: PieceSurroundings): Judged {
  const agent = judgedAgent(document, agents);
  const rules = {
    ...checkRulesOf(profileById(document.target) ?? PREFIX_TAGS),
    ...(agent ? { agent } : {}),
  };
  const findings = findingsOf(document, rules, around);
  return { document, findings, tally: stampsOf(document, findings, around) };
}
