import type { ContactSurface, PieceDocument } from '../piece/index.js';
import type { DeliveryChoices } from './choices.js';
import { type Plan, planToDeliver } from './plan.js';
import type { TargetProfile } from './profile.js';

/**
 * Plans of pieces that leave together. Levels know materials and pictures by their names: what is the same stands once,
 * and what only shares a name with that of a piece before it gets a number.
 *
 * @throws PlanError, DecomposeError
 */
export async function planTogether(
  documents: readonly PieceDocument[],
  profile: TargetProfile,
  choices: DeliveryChoices = {},
  surfaces: readonly ContactSurface[] = [],
): Promise<Plan[]> {
  const plans: Plan[] = [];
  const pictures = new Map<string, string>();
  const materials = new Map<string, string>();
  for (const document of documents) {
    const plan = await planToDeliver(document, profile, choices, surfaces);
    const own = plan.document;
    const named = own.pictures.map((picture) => ({
      ...picture,
      name: freeName(pictures, picture.name, picture.blob),
    }));
    plan.document = {
      ...own,
      pictures: named,
      materials: own.materials.map((material) => {
        const { name, cameAs: _cameAs, pictures: slots, ...values } = material;
        const used = Object.entries(slots).map(([slot, use]) => [
          slot,
          { ...use, picture: named[use.picture]!.name },
        ]);
        return { ...material, name: freeName(materials, name, JSON.stringify([values, used])) };
      }),
    };
    plans.push(plan);
  }
  return plans;
}

/** The name, or that with a number where it stands for something else already. */
function freeName(known: Map<string, string>, name: string, content: string): string {
  for (let n = 1; ; n++) {
    const wanted = n === 1 ? name : numbered(name, n);
    const key = wanted.toLowerCase();
    const other = known.get(key);
    if (other !== undefined && other !== content) continue;
    known.set(key, content);
    return wanted;
  }
}

function numbered(name: string, n: number): string {
  const dot = name.lastIndexOf('.');
  return dot > 0 ? `${name.slice(0, dot)}_${n}${name.slice(dot)}` : `${name}_${n}`;
}
