import { ChangeDetectionStrategy, Component, computed, inject, signal } from '@angular/core';
import { toSignal } from '@angular/core/rxjs-interop';
import {
  artBounds,
  baseCentreOf,
  type Clearance,
  clearanceBetween,
  distance,
  passageOf,
  type Quat,
  quatAbout,
  quatFromAxes,
  sizeOf,
  type Vec3,
  wallProbes,
} from '@yard-brace/core';
import { ShelfStore } from '../shelf/shelf-store';
import { lengthText, sizeText } from '../shell/figures';
import { isTyping } from '../shell/keys';
import { ViewState } from '../view/view-state';
import { BenchStore } from './bench-store';
import { FindingList } from './finding-list';
import { NumberField } from './number-field';
import { Operations } from './operations';
import { stepStyles } from './step-styles';
import { UnitTable } from './unit-table';

const AXES = ['width', 'height', 'depth'] as const;
/** What brings a source axis up to Y, the front kept where it can be. */
const TURNS: { label: string; turn: Quat }[] = [
  { label: 'Z was up', turn: quatFromAxes([1, 0, 0], [0, 0, -1], [0, 1, 0]) },
  { label: '−Z was up', turn: quatFromAxes([1, 0, 0], [0, 0, 1], [0, -1, 0]) },
  { label: 'X was up', turn: quatAbout([0, 0, 1], Math.PI / 2) },
  { label: 'upside down', turn: quatAbout([1, 0, 0], Math.PI) },
  { label: 'front ¼ left', turn: quatAbout([0, 1, 0], Math.PI / 2) },
  { label: 'front ½', turn: quatAbout([0, 1, 0], Math.PI) },
];

/** True size: the unit, growth, axes, known things beside it, the tape, clearances, baking. */
@Component({
  selector: 'yb-size-step',
  changeDetection: ChangeDetectionStrategy.OnPush,
  imports: [FindingList, NumberField, UnitTable],
  host: { '(document:keydown)': 'key($event)' },
  template: `
    @if (document(); as document) {
      <yb-finding-list step="size" />
      <yb-unit-table />

      <section>
        <h3>Grow, from the {{ fromPivot() ? 'pivot' : 'base' }}, which stays where it is</h3>
        <div class="row">
          <label
            >factor
            <yb-number
              [value]="1"
              (changed)="grow($event, 'factor ' + $event)"
              label="Growth factor"
              [min]="0.000001"
              [digits]="6"
              [width]="78"
          /></label>
          <label
            >height
            <yb-number
              [value]="height()"
              (changed)="growTo(1, $event)"
              unit="m"
              label="Target height"
              [min]="0.000001"
              [width]="84"
          /></label>
          <label
            ><input type="checkbox" [checked]="fromPivot()" (change)="fromPivot.set(!fromPivot())" /> from the
            pivot</label
          >
        </div>
        <div class="row known">
          <button type="button" class="act" (click)="knownLength()" data-testid="known-length">
            A known length …
          </button>
          @if (known(); as known) {
            <span class="figures">{{ lengthText(known) }}</span>
            <label
              >should be
              <yb-number
                [value]="known"
                (changed)="grow($event / known, 'known length ' + $event + ' m'); length.set(null)"
                unit="m"
                label="What the length should be"
                [min]="0.000001"
                [digits]="5"
                [width]="84"
            /></label>
          }
        </div>
        @if (others().length) {
          <div class="row known">
            <label
              >as
              <select #axis aria-label="Side to fit">
                @for (name of axes; track name; let i = $index) {
                  <option [value]="i" [selected]="i === 1">{{ name }}</option>
                }
              </select>
              of
              <select #other aria-label="Piece to fit to">
                @for (piece of others(); track piece.id) {
                  <option [value]="piece.id">{{ piece.name }}</option>
                }
              </select>
            </label>
            <button type="button" class="act" (click)="fitTo(+axis.value, +other.value)">Fit</button>
          </div>
        }
      </section>

      <section>
        <h3>Axes: the piece is turned, no node</h3>
        <div class="row">
          @for (each of turns; track each.label) {
            <button type="button" class="act" (click)="turn(each.turn, each.label)">{{ each.label }}</button>
          }
        </div>
      </section>

      <section>
        <h3>Beside it</h3>
        <div class="row">
          @for (agent of agents(); track agent.id) {
            <label
              ><input type="checkbox" [checked]="stands(agent.id)" (change)="stand(agent.id)" />
              {{ agent.name }} <span class="figures faded">{{ agent.height }} m</span></label
            >
          }
          <label
            ><input type="checkbox" [checked]="stands('door')" (change)="stand('door')" /> door
            <span class="figures faded">2.1 m</span></label
          >
          <label
            ><input type="checkbox" [checked]="stands('cube')" (change)="stand('cube')" /> cube
            <span class="figures faded">1 m</span></label
          >
        </div>
        @if (others().length) {
          <div class="row known">
            <label
              >another piece, at its place
              <select
                aria-label="Piece to show beside"
                (change)="store.beside$.next(+$any($event.target).value || null)"
              >
                <option value="">none</option>
                @for (piece of others(); track piece.id) {
                  <option [value]="piece.id" [selected]="piece.id === beside()">{{ piece.name }}</option>
                }
              </select>
            </label>
          </div>
        }
      </section>

      <section>
        <h3>Tape</h3>
        <div class="row">
          <button type="button" class="act" (click)="measure()" title="M" data-testid="tape">
            Between two points …
          </button>
          <label
            ><input type="checkbox" [checked]="settings().dimensions" (change)="view.toggle('dimensions')" />
            dimensions on the piece</label
          >
        </div>
        @if (tapes().length) {
          <ul class="tapes">
            @for (tape of tapes(); track $index; let i = $index) {
              <li>
                <span class="figures">{{ lengthText(apart(tape)) }}</span>
                <span class="figures faded">{{ across(tape) }}</span>
                <button
                  type="button"
                  class="quiet-button"
                  (click)="dropTape(i)"
                  [attr.aria-label]="'Roll up tape ' + (i + 1)"
                >
                  <span class="pi pi-times"></span>
                </button>
              </li>
            }
          </ul>
        }
      </section>

      <section>
        <h3>Clearances: openings that must stay free</h3>
        <div class="row">
          <button type="button" class="act" (click)="addClearance()" data-testid="add-clearance">
            From corner to corner …
          </button>
          <span class="faded">two points of the opening, snapped to its faces</span>
        </div>
        @for (clearance of document.clearances; track clearance.id; let i = $index) {
          <div class="clearance" [attr.data-clearance]="clearance.name">
            <div class="row">
              <input
                class="text"
                [value]="clearance.name"
                aria-label="Name of the clearance"
                (change)="change(i, { name: $any($event.target).value.trim() || clearance.name })"
              />
              <button
                type="button"
                class="act"
                (click)="change(i, { through: clearance.through === 'x' ? 'z' : 'x' })"
                title="Which way one passes through"
              >
                along {{ clearance.through }}
              </button>
              <button
                type="button"
                class="quiet-button"
                (click)="removeClearance(i)"
                [attr.aria-label]="'Remove ' + clearance.name"
              >
                <span class="pi pi-times"></span>
              </button>
            </div>
            <div class="row">
              @for (name of axes; track name; let k = $index) {
                <label
                  >{{ name }}
                  <yb-number
                    [value]="2 * clearance.halfExtents[k]"
                    (changed)="resize(i, k, $event)"
                    unit="m"
                    [label]="clearance.name + ' ' + name"
                    [min]="0.01"
                    [width]="82"
                /></label>
              }
            </div>
            <table>
              @for (row of passages(clearance); track row.name) {
                <tr [class.stuck]="!row.passes">
                  <td>
                    {{ row.passes ? '✓' : '✕' }} {{ row.name }} {{ row.passes ? 'passes' : 'does not pass' }}
                  </td>
                  <td class="number figures">{{ row.left }}</td>
                </tr>
              }
            </table>
          </div>
        }
      </section>

      <section>
        <h3>Bake into the vertices</h3>
        <div class="row">
          <label
            ><input
              type="checkbox"
              [checked]="!keepPosition()"
              (change)="keepPosition.set(!keepPosition())"
            />
            position</label
          >
          <label
            ><input
              type="checkbox"
              [checked]="!keepRotation()"
              (change)="keepRotation.set(!keepRotation())"
            />
            rotation</label
          >
          <label><input type="checkbox" checked disabled /> scale</label>
          <select aria-label="What to bake" #what>
            <option value="">the whole tree</option>
            @for (node of document.nodes.slice(0, 200); track node.id) {
              <option [value]="node.id">{{ node.name }}</option>
            }
          </select>
          <button type="button" class="act" (click)="bake(what.value)" data-testid="bake">Bake</button>
        </div>
        <table>
          @for (row of transforms(); track row.name) {
            <tr>
              <td>{{ row.name }}</td>
              <td class="number figures wraps">{{ row.text }}</td>
            </tr>
          } @empty {
            <tr>
              <td>Every node says 0, 0, 1.</td>
            </tr>
          }
        </table>
      </section>
    }
  `,
  styles: [
    stepStyles,
    `
      .known {
        margin-top: 6px;
      }
      .tapes li {
        display: flex;
        align-items: center;
        gap: 10px;
        border-bottom: 1px dotted var(--rule);
      }
      .tapes .faded {
        flex: 1;
      }
      .clearance {
        display: grid;
        gap: 5px;
        margin-top: 7px;
        padding: 6px 8px;
        background: var(--paper);
      }
      .wraps {
        white-space: normal !important;
      }
      .stuck {
        color: var(--vermilion);
        font-weight: 600;
      }
    `,
  ],
})
export class SizeStep {
  protected readonly store = inject(BenchStore);
  protected readonly view = inject(ViewState);
  protected readonly operations = inject(Operations);
  private readonly shelf = inject(ShelfStore);
  protected readonly document = toSignal(this.store.document$);
  private readonly piece = toSignal(this.store.piece$);
  private readonly yard = toSignal(this.shelf.yard$, { initialValue: null });
  protected readonly settings = toSignal(this.view.settings$, { requireSync: true });
  protected readonly tapes = toSignal(this.view.tapes$, { requireSync: true });
  protected readonly beside = toSignal(this.store.beside$, { requireSync: true });
  protected readonly axes = AXES;
  protected readonly turns = TURNS;
  protected readonly lengthText = lengthText;
  protected readonly fromPivot = signal(false);
  protected readonly keepPosition = signal(false);
  protected readonly keepRotation = signal(false);
  protected readonly length = signal<number | null>(null);
  protected readonly known = this.length.asReadonly();
  protected readonly agents = computed(() => this.piece()?.yard.rules.agents ?? []);
  protected readonly others = computed(
    () => this.yard()?.shelf.filter(({ id }) => id !== this.piece()?.id) ?? [],
  );
  protected readonly height = computed(() => sizeOf(artBounds(this.document()!))[1]);
  protected readonly transforms = computed(() => {
    const off = (v: readonly number[], at: readonly number[]) =>
      v.some((x, k) => Math.abs(x - at[k]!) > 1e-6);
    return this.document()!
      .nodes.filter(
        (node) =>
          off(node.translation, [0, 0, 0]) ||
          off(node.scale, [1, 1, 1]) ||
          Math.abs(Math.abs(node.rotation[3]) - 1) > 1e-6,
      )
      .slice(0, 6)
      .map(({ name, translation, rotation, scale }) => {
        const short = (v: readonly number[]) => v.map((x) => Number(x.toPrecision(3))).join(', ');
        const degrees = (2 * Math.acos(Math.min(1, Math.abs(rotation[3]))) * 180) / Math.PI;
        return { name, text: `${short(translation)} · ${degrees.toFixed(0)}° · ${short(scale)}` };
      });
  });

  protected grow(factor: number, what: string): void {
    if (!(factor > 0) || factor === 1) return;
    const about = this.fromPivot()
      ? this.document()!.pivot.position
      : baseCentreOf(artBounds(this.document()!));
    this.store.proposeChange(
      `The piece grows by ${Number(factor.toPrecision(6))}; its ${this.fromPivot() ? 'pivot' : 'base'} stays.`,
      { kind: 'resize', factor, about, what },
      'Keep the size',
    );
  }

  protected growTo(axis: number, metres: number): void {
    const now = sizeOf(artBounds(this.document()!))[axis]!;
    if (now > 0) this.grow(metres / now, `${AXES[axis]} ${metres} m`);
  }

  protected fitTo(axis: number, id: number): void {
    const other = this.others().find((piece) => piece.id === id);
    if (other) this.growTo(axis, other.size[axis]!);
  }

  protected async knownLength(): Promise<void> {
    const ends = await this.twoPoints('the known length');
    if (ends) this.length.set(distance(...ends));
  }

  protected async measure(): Promise<void> {
    const ends = await this.twoPoints('the tape');
    if (ends) this.view.tapes$.next([...this.view.tapes$.value, ends]);
  }

  protected apart = ([a, b]: readonly [Vec3, Vec3]) => distance(a, b);
  protected across = ([a, b]: readonly [Vec3, Vec3]) => sizeText(a.map((v, k) => Math.abs(v - b[k]!)));

  protected dropTape(i: number): void {
    this.view.tapes$.next(this.view.tapes$.value.filter((_, k) => k !== i));
  }

  private async twoPoints(what: string): Promise<[Vec3, Vec3] | null> {
    const from = await this.view.ask(`Point at the first end of ${what}.`);
    if (!from) return null;
    const to = await this.view.ask(`Point at the other end of ${what}.`);
    return to && [from.at, to.at];
  }

  protected turn(turn: Quat, label: string): void {
    const about = baseCentreOf(artBounds(this.document()!));
    this.store.proposeChange(
      `The piece is turned: ${label}. No node takes the turn.`,
      { kind: 'turn', turn, about, what: label },
      'Keep it so',
    );
  }

  protected stands = (id: string): boolean => this.settings().references.includes(id);

  protected stand(id: string): void {
    const { references } = this.settings();
    this.view.set({
      references: this.stands(id) ? references.filter((each) => each !== id) : [...references, id],
    });
  }

  /** A box between two corners of an opening; its thinner level side is the way through. */
  protected async addClearance(): Promise<void> {
    const from = await this.view.ask('Point at one lower corner of the opening.');
    if (!from) return;
    const to = await this.view.ask('Point at the upper corner across from it.');
    if (!to) return;
    const corners = { from: from.at, to: to.at, normal: from.normal };
    const probes = wallProbes(corners);
    const wall = probes ? await this.operations.wallMetres(probes) : 0;
    if (wall === null) return;
    const { clearances } = this.document()!;
    const clearance: Clearance = {
      id: freeId(clearances),
      name: `opening ${clearances.length + 1}`,
      ...clearanceBetween(corners, wall),
    };
    this.store.apply({ kind: 'set-clearances', clearances: [...clearances, clearance] });
  }

  protected change(i: number, change: Partial<Clearance>): void {
    const clearances = this.document()!.clearances.map((each, k) =>
      k === i ? { ...each, ...change } : each,
    );
    this.store.apply({ kind: 'set-clearances', clearances });
  }

  /** Height grows upwards from the sill, the sides both ways. */
  protected resize(i: number, axis: number, metres: number): void {
    const { center, halfExtents } = this.document()!.clearances[i]!;
    const half: Vec3 = [...halfExtents];
    half[axis] = metres / 2;
    const moved: Vec3 = [...center];
    if (axis === 1) moved[1] += half[1] - halfExtents[1];
    this.change(i, { halfExtents: half, center: moved });
  }

  protected removeClearance(i: number): void {
    this.store.apply({
      kind: 'set-clearances',
      clearances: this.document()!.clearances.filter((_, k) => k !== i),
    });
  }

  protected passages(clearance: Clearance) {
    const signed = (v: number) => `${v < 0 ? '−' : '+'}${lengthText(Math.abs(v))}`;
    return this.agents().map((agent) => {
      const { passes, widthLeft, heightLeft } = passageOf(clearance, agent);
      return { name: agent.name, passes, left: `${signed(widthLeft)} wide, ${signed(heightLeft)} high` };
    });
  }

  protected bake(part: string): void {
    void this.operations.propose({
      op: 'bake',
      parts: part ? [part] : [],
      keepPosition: this.keepPosition(),
      keepRotation: this.keepRotation(),
    });
  }

  protected key(event: KeyboardEvent): void {
    if (isTyping(event) || event.ctrlKey || event.metaKey || event.altKey || event.key.toLowerCase() !== 'm')
      return;
    void this.measure();
    event.preventDefault();
  }
}

/** The next number that no clearance has: the same work gives the same document. */
const freeId = (clearances: readonly Clearance[]): string =>
  `c${Math.max(0, ...clearances.map(({ id }) => Number(/^c(\d+)$/.exec(id)?.[1] ?? 0))) + 1}`;
