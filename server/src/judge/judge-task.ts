import { judgeSent, judgeStored, meshFault } from './judge.js';

/** What a judging thread can be asked. */
export type JudgeCall =
  | { ask: 'sent'; args: Parameters<typeof judgeSent> }
  | { ask: 'stored'; args: Parameters<typeof judgeStored> }
  | { ask: 'mesh'; args: Parameters<typeof meshFault> };

export default function answer(call: JudgeCall): unknown {
  if (call.ask === 'sent') return judgeSent(...call.args);
  return call.ask === 'stored' ? judgeStored(...call.args) : meshFault(...call.args);
}
