import type { Quat, Vec3 } from '../math/index.js';
import type { ContactSurface, PieceDocument } from '../piece/index.js';
import type { DeliveryChoices } from './choices.js';
import { type Plan, planToDeliver } from './plan.js';
import type { TargetProfile } from './profile.js';

/** Where the pivot of a piece stands in a file that it shares, metres. */
export interface Stand {
  position: Vec3;
  rotation: Quat;
}

/**
 * Plans of pieces that leave together. Levels know materials and pictures by their names: what is the same stands once,
 * and what only shares a name with that of a piece before it gets a number.
 *
 * @param stands where each stands. Default: where it stood when it was made
 * @throws PlanError, DecomposeError
 */
export async function planTogether(
  documents: readonly PieceDocument[],
  profile: TargetProfile,
  choices: DeliveryChoices = {},
  surfaces: readonly ContactSurface[] = [],
  stands: readonly Stand[] = [],
): Promise<Plan[]> {
  const plans: Plan[] = [];
  const pictures = new SharedNames();
  const materials = new SharedNames();
  for (const [i, document] of documents.entries()) {
    const plan = await planToDeliver(document, profile, choices, surfaces, stands[i]);
    const { document: own } = plan;
    const contents = own.pictures.map(({ name, blob }) => ({ name, content: blob }));
    const pictureNames = pictures.of(contents);
    const materialNames = materials.of(
      own.materials.map(({ name, cameAs: _cameAs, pictures: slots, ...values }) => ({
        name,
        content: JSON.stringify([
          values,
          Object.entries(slots).map(([slot, use]) => [slot, use, pictureNames[use.picture]]),
        ]),
      })),
    );
    const named = <Thing extends { name: string }>(things: readonly Thing[], names: readonly string[]) =>
      things.map((each, i) => ({ ...each, name: names[i]! }));
    plan.document = {
      ...own,
      pictures: named(own.pictures, pictureNames),
      materials: named(own.materials, materialNames),
    };
    plans.push(plan);
  }
  return plans;
}

/** Names that several pieces share. */
class SharedNames {
  /** what each name stands for in the pieces before */
  private readonly known = new Map<string, string>();

  /** The names of one piece: one that stands for something else in a piece before gets a number that is free. */
  of(things: readonly { name: string; content: string }[]): string[] {
    const own = new Set(things.map(({ name }) => name.toLowerCase()));
    const names = things.map(({ name, content }) => {
      for (let n = 1; ; n++) {
        const wanted = n === 1 ? name : numbered(name, n);
        const key = wanted.toLowerCase();
        const other = this.known.get(key);
        if (other === content || (other === undefined && (n === 1 || !own.has(key)))) return wanted;
      }
    });
    names.forEach((name, i) => this.known.set(name.toLowerCase(), things[i]!.content));
    return names;
  }
}

function numbered(name: string, n: number): string {
  const dot = name.lastIndexOf('.');
  return dot > 0 ? `${name.slice(0, dot)}_${n}${name.slice(dot)}` : `${name}_${n}`;
}
