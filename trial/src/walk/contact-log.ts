import type { RunStart, TrialContact, Vec3 } from '@yard-brace/core';

type Noted = Omit<TrialContact, 'shape'> & { shape: number };

/** Contacts by shape and place: of those that lie close together the worst is kept. */
export class ContactLog {
  private readonly worst = new Map<string, Noted>();
  private readonly asked = new Set<string>();

  /** @param cellMetres contacts closer together are one place */
  constructor(private readonly cellMetres: number) {}

  /** Whether a contact of this kind, here and with this shape, was not measured yet; it is taken for measured then. */
  isNew(where: string, shape: number, at: Readonly<Vec3>, normal: Readonly<Vec3>): boolean {
    const fine = at.map((v) => Math.round((v / this.cellMetres) * 4));
    const facing = normal.map((v) => Math.round(v * 2));
    const key = [where, shape, ...fine, ...facing].join();
    if (this.asked.has(key)) return false;
    this.asked.add(key);
    return true;
  }

  add(
    kind: TrialContact['kind'],
    where: TrialContact['where'],
    metres: number,
    at: Vec3,
    shape: number,
    from: RunStart | null,
  ): void {
    const cell = at.map((v) => Math.floor(v / this.cellMetres));
    const key = [kind, where, shape, ...cell].join();
    const known = this.worst.get(key);
    if (!known || metres > known.metres) this.worst.set(key, { kind, where, metres, at, shape, from });
  }

  /** Those of more than a length, the worst first. */
  above(metres: number): Noted[] {
    return [...this.worst.values()]
      .filter((each) => each.metres > metres)
      .sort((a, b) => b.metres - a.metres);
  }
}
