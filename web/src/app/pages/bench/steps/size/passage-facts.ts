import { type Agent, type Clearance, lengthText, passageOf } from '@yard-brace/core';
import type { Fact } from '../../../../ui/fact-table';

const signed = (metres: number): string => `${metres < 0 ? '−' : '+'}${lengthText(Math.abs(metres))}`;

/** Who passes an opening with the room that the yard wants beside them, and what is left beside and above. */
export const passageFacts = (clearance: Clearance, agents: readonly Agent[], marginMetres = 0): Fact[] =>
  agents.map((agent) => {
    const { passes, widthLeft, heightLeft } = passageOf(clearance, agent, marginMetres);
    return {
      name: `${passes ? '✓' : '✕'} ${agent.name} ${passes ? 'passes' : 'does not pass'}`,
      text: `${signed(widthLeft)} wide, ${signed(heightLeft)} high`,
      bad: !passes,
    };
  });
