import type { DeliveredState } from '../check/index.js';
import type { PieceDocument } from '../piece/index.js';
import {
  changesBetween,
  type DeliveryChoices,
  type Inventory,
  inventoryOf,
  planDelivery,
  PlanError,
} from '../target/index.js';
import { targetsOf, choicesByRules } from './of-rules.js';
import type { YardRules } from './yard-rules.js';

/** The newest delivery of a piece for one target. */
export interface LastFor {
  target: string;
  agreed: boolean;
  choices: DeliveryChoices;
  /** null for deliveries of before that was kept */
  inventory: Inventory | null;
  /** of the document that left */
  version: number;
}

/**
 * How a piece stands to what was delivered of it, for each target of the yard: changed means that what leaves has
 * changed, not that it was saved again.
 *
 * @param version of the document
 */
export function deliveryStates(
  document: PieceDocument,
  rules: YardRules,
  deliveries: readonly LastFor[],
  version?: number,
): DeliveredState[] {
  return targetsOf(rules).flatMap((profile) => {
    const last = deliveries.find(({ target }) => target === profile.id);
    if (!last) return [];
    const state = { target: profile.name, agreed: last.agreed };
    if (!last.inventory) {
      const older = version !== undefined && last.version < version;
      return [{ ...state, changes: older ? ['It was saved since.'] : [] }];
    }
    try {
      const now = inventoryOf(
        planDelivery(
          document,
          profile,
          choicesByRules(last.choices, rules, document, profile.id),
          rules.surfaces,
        ),
      );
      return [{ ...state, changes: changesBetween(last.inventory, now).map(({ says }) => says) }];
    } catch (error) {
      if (!(error instanceof PlanError)) throw error;
      return [{ ...state, changes: [error.message] }];
    }
  });
}
