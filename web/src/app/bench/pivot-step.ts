import { ChangeDetectionStrategy, Component, computed, inject, linkedSignal, signal } from '@angular/core';
import { toSignal } from '@angular/core/rxjs-interop';
import {
  artBounds,
  artNodes,
  axesFrom,
  baseCentreOf,
  type Bounds,
  centreOf,
  cross,
  distance,
  familyPivot,
  familyShare,
  normalized,
  partBounds,
  partPivot,
  type PieceDocument,
  type Pivot,
  type PivotAnchor,
  pivotAt,
  pivotPlace,
  pointOfBounds,
  quatFromAxes,
  subtract,
  type Vec3,
} from '@yard-brace/core';
import { ShelfStore } from '../shelf/shelf-store';
import { lengthText, placeText } from '../shell/figures';
import { type Picked, ViewState } from '../view/view-state';
import { BenchStore } from './bench-store';
import { FindingList } from './finding-list';
import { NumberField } from './number-field';
import { Operations } from './operations';
import { PivotCube } from './pivot-cube';
import { stepStyles } from './step-styles';

const RULES: { rule: 'base-centre' | 'centre' | 'origin' | 'keep'; name: string }[] = [
  { rule: 'base-centre', name: 'base centre' },
  { rule: 'centre', name: 'centre' },
  { rule: 'origin', name: 'origin' },
  { rule: 'keep', name: 'as it came' },
];

/** Where the piece and its parts are grabbed. The geometry stays: only the point it is measured from moves. */
@Component({
  selector: 'yb-pivot-step',
  changeDetection: ChangeDetectionStrategy.OnPush,
  imports: [FindingList, PivotCube, NumberField],
  template: `
    @if (document(); as document) {
      <yb-finding-list step="pivot" />
      <section>
        <div class="row whose">
          <label
            >Pivot of
            <select aria-label="Whose pivot" (change)="turnTo($any($event.target).value)" data-testid="whose">
              <option value="">the piece</option>
              @for (part of parts(); track part.id) {
                <option [value]="part.id" [selected]="part.id === whose()">{{ part.name }}</option>
              }
            </select>
          </label>
          <label><input type="checkbox" [checked]="pivot().locked" (change)="lock()" /> locked</label>
          <label
            ><input type="checkbox" [checked]="settings().pivots" (change)="view.toggle('pivots')" /> show
            all</label
          >
        </div>
        <div class="anchors">
          <yb-pivot-cube [cell]="cell()" (picked)="toCell($event)" />
          <ul role="radiogroup" aria-label="Pivot">
            @for (choice of choices(); track choice.anchor) {
              <li>
                <button
                  type="button"
                  role="radio"
                  [attr.aria-checked]="choice.taken"
                  [class.taken]="choice.taken"
                  [disabled]="pivot().locked"
                  (click)="toAnchor(choice.anchor)"
                >
                  <i></i>{{ choice.name }}
                </button>
              </li>
            }
          </ul>
        </div>
        <div class="row pick">
          <button
            type="button"
            class="act"
            [disabled]="pivot().locked"
            (click)="pickPoint()"
            data-testid="pick-pivot"
          >
            Point at it …
          </button>
          <button type="button" class="act" [disabled]="pivot().locked || !chosen()" (click)="toSelection()">
            Middle of the chosen faces
          </button>
          <button type="button" class="act" [disabled]="pivot().locked" (click)="toGrid()">
            On the grid
          </button>
        </div>
      </section>

      <section>
        <h3>By numbers, metres</h3>
        <div class="numbers">
          @for (axis of axes; track axis; let i = $index) {
            <label
              ><span [class]="'axis ' + axis">{{ axis }}</span>
              <yb-number
                [value]="pivot().position[i]"
                (changed)="typed(i, $event)"
                [label]="'Pivot ' + axis + ' in metres'"
                [digits]="6"
                [width]="84"
            /></label>
          }
        </div>
        <p class="faded">
          The geometry does not move. From the pivot it reaches from
          <span class="figures">{{ reach().from }}</span> to <span class="figures">{{ reach().to }}</span>.
        </p>
      </section>

      <section>
        <h3>Hinge or axle</h3>
        <div class="row">
          <button
            type="button"
            class="act"
            [disabled]="pivot().locked"
            (click)="hingeOnEdge()"
            data-testid="hinge-edge"
          >
            Along an edge …
          </button>
          <button
            type="button"
            class="act"
            [disabled]="pivot().locked"
            (click)="hingeThrough()"
            data-testid="hinge-points"
          >
            Through two points …
          </button>
          @if (pivot().hinge) {
            <button
              type="button"
              class="act"
              (click)="put({ hinge: undefined, anchor: 'numeric' }, 'no hinge')"
            >
              No hinge
            </button>
          }
        </div>
        @if (pivot().hinge; as hinge) {
          <div class="row swing">
            <label
              >try it
              <input
                type="range"
                min="-180"
                max="180"
                [value]="swing()"
                (input)="trySwing(+$any($event.target).value)"
                aria-label="Open the hinge"
                data-testid="swing"
            /></label>
            <span class="figures">{{ swing() }}°</span>
            @if (swing() !== 0) {
              <button type="button" class="act" (click)="keepSwing()">Leave it turned</button>
              <button type="button" class="quiet-button" (click)="trySwing(0)">Back</button>
            }
          </div>
          <p class="faded figures">axis {{ direction(hinge.axis) }}</p>
        }
      </section>

      <section>
        <h3>Its own axes</h3>
        <div class="row">
          <button
            type="button"
            class="act"
            [disabled]="pivot().locked"
            (click)="put({ rotation: [0, 0, 0, 1] }, 'axes of the world')"
          >
            World
          </button>
          <button type="button" class="act" [disabled]="pivot().locked" (click)="turnAlong('edge')">
            Along an edge …
          </button>
          <button type="button" class="act" [disabled]="pivot().locked" (click)="turnAlong('face')">
            Along a face …
          </button>
          <span class="figures faded">{{ turned() }}</span>
        </div>
      </section>

      @if (parts().length > 1) {
        <section>
          <h3>All parts at once</h3>
          <div class="row">
            @for (each of rules; track each.rule) {
              <button type="button" class="act" (click)="rule(each.rule)">{{ each.name }}</button>
            }
            <label
              ><input type="checkbox" [checked]="alsoHinges()" (change)="alsoHinges.set(!alsoHinges())" />
              hinges too</label
            >
          </div>
          <table>
            @for (part of parts().slice(0, 40); track part.id) {
              <tr [class.current]="part.id === whose()">
                <td>
                  <label
                    ><input
                      type="checkbox"
                      [checked]="!excepted().has(part.id)"
                      (change)="except(part.id)"
                      [attr.aria-label]="'Rules take ' + part.name"
                    />
                    <button type="button" class="quiet-button" (click)="turnTo(part.id)">
                      {{ part.name }}
                    </button></label
                  >
                </td>
                <td class="number faded">{{ part.note }}</td>
              </tr>
            }
          </table>
          @if (whose()) {
            <div class="row">
              <label
                >same as
                <select
                  aria-label="Keep in step with"
                  (change)="follow($any($event.target).value)"
                  [disabled]="pivot().locked"
                >
                  <option value="">nothing else</option>
                  @for (part of parts(); track part.id) {
                    @if (part.id !== whose()) {
                      <option [value]="part.id" [selected]="part.id === following()">{{ part.name }}</option>
                    }
                  }</select
                >, kept in step</label
              >
            </div>
          }
          <div class="row">
            <label
              ><input
                type="checkbox"
                [checked]="document.leaves === 'each-part'"
                (change)="
                  store.apply({
                    kind: 'set-leaves',
                    leaves: document.leaves === 'each-part' ? 'as-one' : 'each-part',
                  })
                "
                data-testid="each-part"
              />
              every part leaves on its own pivot; the manifest puts them together again</label
            >
          </div>
        </section>
      }

      <section>
        <h3>Family: variants that replace each other share a pivot</h3>
        <div class="row">
          <input
            class="text"
            [value]="document.family ?? ''"
            placeholder="none"
            aria-label="Family"
            (change)="join($any($event.target).value.trim())"
            [attr.list]="'families'"
            data-testid="family"
          />
          <datalist id="families">
            @for (name of families(); track name) {
              <option [value]="name"></option>
            }
          </datalist>
        </div>
        @if (members().length) {
          <p class="faded">With {{ members().join(', ') }}.</p>
        }
        @if (same().length) {
          <div class="row">
            <label
              >or once, where
              <select aria-label="Take over the pivot of a piece" #other>
                @for (piece of same(); track piece.id) {
                  <option [value]="piece.id">{{ piece.name }}</option>
                }
              </select>
              has it</label
            >
            <button type="button" class="act" (click)="likePiece(+other.value)">Take over</button>
          </div>
        }
      </section>
    }
  `,
  styles: [
    stepStyles,
    `
      .anchors {
        display: flex;
        gap: 8px;
        margin: 6px 0;
      }
      .anchors ul {
        flex: 1;
        display: grid;
        gap: 2px;
        align-content: center;
      }
      .anchors button {
        display: flex;
        gap: 8px;
        align-items: center;
        width: 100%;
        height: 24px;
        padding: 0 8px;
        text-align: left;
        background: none;
        border: 1px solid transparent;
        cursor: pointer;
      }
      .anchors button:hover {
        border-color: var(--rule);
      }
      .anchors .taken {
        border-color: var(--brass);
        background: var(--paper);
      }
      i {
        width: 11px;
        height: 11px;
        flex: none;
        border: 1px solid var(--faded);
        border-radius: 50%;
      }
      .taken i {
        background: var(--brass);
        border-color: var(--brass);
      }
      .numbers {
        display: flex;
        gap: 8px;
      }
      .axis {
        font-weight: 600;
      }
      .x {
        color: #c8412b;
      }
      .y {
        color: #4c9141;
      }
      .z {
        color: #2f62b8;
      }
      tr.current td {
        background: var(--paper);
      }
      input[type='range'] {
        accent-color: var(--brass);
      }
    `,
  ],
})
export class PivotStep {
  protected readonly store = inject(BenchStore);
  protected readonly view = inject(ViewState);
  private readonly operations = inject(Operations);
  private readonly shelf = inject(ShelfStore);
  protected readonly document = toSignal(this.store.document$);
  private readonly piece = toSignal(this.store.piece$);
  private readonly yard = toSignal(this.shelf.yard$, { initialValue: null });
  protected readonly settings = toSignal(this.view.settings$, { requireSync: true });
  protected readonly chosen = toSignal(this.view.chosen$, { requireSync: true });
  private readonly swung = toSignal(this.view.swing$, { requireSync: true });
  protected readonly axes = ['x', 'y', 'z'];
  protected readonly rules = RULES;
  /** id of a part, or empty for the piece */
  protected readonly whose = linkedSignal<PieceParts, string>({
    source: () => ({ piece: this.piece()?.id, nodes: this.document()?.nodes ?? [] }),
    // Another piece, or a part that is gone: its number means something else now, or nothing.
    computation: (now, before) =>
      before?.source.piece === now.piece && now.nodes.some(({ id }) => id === before?.value)
        ? before!.value
        : '',
  });
  protected readonly alsoHinges = signal(false);
  private readonly pieceId = computed(() => this.piece()?.id);
  protected readonly excepted = linkedSignal<number | undefined, ReadonlySet<string>>({
    source: this.pieceId,
    computation: () => new Set(),
  });
  protected readonly swing = computed(() => {
    const swung = this.swung();
    return swung?.part === this.whose() ? swung.degrees : 0;
  });

  private readonly number = computed(
    () => this.document()?.nodes.findIndex((node) => node.id === this.whose()) ?? -1,
  );
  protected readonly pivot = computed((): Pivot => {
    const document = this.document()!;
    return this.number() < 0 ? document.pivot : partPivot(document, this.number());
  });
  private readonly bounds = computed((): Bounds => {
    const document = this.document()!;
    return this.number() < 0 ? artBounds(document) : partBounds(document, this.number());
  });
  protected readonly cell = computed(() => {
    const { anchor, cell } = this.pivot();
    if (anchor === 'base-centre') return [0, -1, 0];
    if (anchor === 'centre') return [0, 0, 0];
    return anchor === 'bounds' ? (cell ?? null) : null;
  });
  protected readonly parts = computed(() => {
    const document = this.document()!;
    return artNodes(document.nodes).map((i) => {
      const { id, name, pivot } = document.nodes[i]!;
      const now = partPivot(document, i);
      const words = now.anchor.replaceAll('-', ' ');
      return {
        id,
        name,
        note: `${words}${pivot?.follows ? ', in step' : ''}${now.locked ? ', locked' : ''}`,
      };
    });
  });
  protected readonly choices = computed(() => {
    const now = this.pivot().anchor;
    const choices: [PivotAnchor, string][] = [
      ['base-centre', 'Base centre'],
      ['centre', 'Centre of bounds'],
      ['lowest-contact', 'Lowest contact'],
      ['centroid', 'Centroid of mass'],
      ['origin', 'World origin'],
      ['as-it-came', 'As it came'],
    ];
    return choices.map(([anchor, name]) => ({ anchor, name, taken: now === anchor }));
  });
  protected readonly reach = computed(() => {
    const { min, max } = this.bounds();
    const { position } = this.pivot();
    return { from: placeText(subtract(min, position)), to: placeText(subtract(max, position)) };
  });
  protected readonly turned = computed(() => {
    const degrees = (2 * Math.acos(Math.min(1, Math.abs(this.pivot().rotation[3]))) * 180) / Math.PI;
    return degrees < 1e-4 ? 'as the world’s' : `turned ${degrees.toFixed(1)}°`;
  });
  protected readonly following = computed(() => this.document()!.nodes[this.number()]?.pivot?.follows ?? '');
  private readonly kin = computed(() => this.yard()?.shelf.filter(({ id }) => id !== this.piece()?.id) ?? []);
  protected readonly same = this.kin;
  protected readonly families = computed(() => [
    ...new Set(this.kin().flatMap(({ family }) => family ?? [])),
  ]);
  protected readonly members = computed(() => {
    const { family } = this.document()!;
    return family === null
      ? []
      : this.kin()
          .filter((piece) => piece.family === family)
          .map(({ name }) => name);
  });

  /** Another part's pivot: a swing that was tried on the last one ends. */
  protected turnTo(part: string): void {
    this.view.swing$.next(null);
    this.whose.set(part);
  }

  /** Change the pivot that is worked on. */
  protected put(change: Partial<Pivot>, what: string): void {
    const pivot = { ...this.pivot(), ...change };
    delete pivot.follows;
    this.store.apply({ kind: 'set-pivots', what, pivots: [{ part: this.whose() || null, pivot }] });
  }

  private place(anchor: PivotAnchor, position: Vec3, more: Partial<Pivot> = {}): void {
    this.put(
      { anchor, position, cell: undefined, hinge: undefined, ...more },
      `pivot to ${anchor.replaceAll('-', ' ')}`,
    );
  }

  protected async toAnchor(anchor: PivotAnchor): Promise<void> {
    if (anchor === 'lowest-contact' || anchor === 'centroid') {
      const place = await this.operations.measuredPivot(anchor, this.whose() || null);
      if (place) this.place(anchor, place);
      return;
    }
    const document = this.document()!;
    if (this.number() < 0) this.place(anchor, pivotPlace(document, anchor));
    else if (anchor === 'as-it-came')
      this.store.apply({
        kind: 'set-pivots',
        what: 'pivot as it came',
        pivots: [{ part: this.whose(), pivot: null }],
      });
    else
      this.place(
        anchor,
        anchor === 'origin'
          ? [0, 0, 0]
          : anchor === 'centre'
            ? centreOf(this.bounds())
            : baseCentreOf(this.bounds()),
      );
  }

  protected toCell(cell: [-1 | 0 | 1, -1 | 0 | 1, -1 | 0 | 1]): void {
    if (this.pivot().locked) return;
    const middle = cell[0] === 0 && cell[2] === 0;
    const anchor = middle && cell[1] === -1 ? 'base-centre' : middle && cell[1] === 0 ? 'centre' : 'bounds';
    this.place(anchor, pointOfBounds(this.bounds(), cell), anchor === 'bounds' ? { cell } : {});
  }

  protected async pickPoint(): Promise<void> {
    const picked = await this.view.ask('Point at a vertex, the middle of an edge or a face.');
    if (picked) this.place(anchorOf(picked), picked.at);
  }

  protected toSelection(): void {
    const chosen = this.chosen();
    if (chosen) this.place('selection', centreOf(chosen));
  }

  protected toGrid(): void {
    const step = this.piece()?.yard.rules.gridMetres ?? 1;
    const { position } = this.pivot();
    this.place('numeric', [
      Math.round(position[0] / step) * step,
      position[1],
      Math.round(position[2] / step) * step,
    ]);
  }

  protected typed(axis: number, value: number): void {
    if (this.pivot().locked) return;
    const position: Vec3 = [...this.pivot().position];
    position[axis] = value;
    this.place('numeric', position, { hinge: this.pivot().hinge });
  }

  protected lock(): void {
    const pivot = { ...this.pivot(), locked: !this.pivot().locked };
    this.store.apply({
      kind: 'set-pivots',
      what: pivot.locked ? 'pivot locked' : 'pivot unlocked',
      pivots: [{ part: this.whose() || null, pivot }],
    });
  }

  protected async hingeOnEdge(): Promise<void> {
    const picked = await this.view.ask('Point at the edge that the hinge runs along.');
    if (picked) this.hinge(...picked.edge);
  }

  protected async hingeThrough(): Promise<void> {
    const from = await this.view.ask('Point at one end of the hinge.');
    if (!from) return;
    const to = await this.view.ask('Point at the other end of the hinge.');
    if (to) this.hinge(from.at, to.at);
  }

  private hinge(a: Vec3, b: Vec3): void {
    if (distance(a, b) < 1e-9) return;
    // The lower end is the pivot, the axis points up: doors of one kind turn alike.
    const [low, high] = a[1] < b[1] || (a[1] === b[1] && a[0] <= b[0]) ? [a, b] : [b, a];
    this.put(
      {
        anchor: 'hinge',
        position: low,
        cell: undefined,
        hinge: { axis: normalized(subtract(high, low)), opens: [0, 90] },
      },
      'hinge',
    );
  }

  protected direction = (axis: Vec3) => axis.map((v) => v.toFixed(3)).join(', ');

  protected trySwing(degrees: number): void {
    this.view.swing$.next(degrees === 0 ? null : { part: this.whose(), degrees });
  }

  protected async keepSwing(): Promise<void> {
    const { hinge, position } = this.pivot();
    if (!hinge || !this.swing()) return;
    const half = (this.swing() * Math.PI) / 360;
    const [x, y, z] = hinge.axis.map((v) => v * Math.sin(half)) as Vec3;
    this.view.swing$.next(null);
    await this.operations.propose({
      op: 'move',
      part: this.whose() || null,
      by: [0, 0, 0],
      turn: [x, y, z, Math.cos(half)],
      about: position,
    });
  }

  /** Y along the edge or the face's normal; for an edge its face's normal gives the front. */
  protected async turnAlong(what: 'edge' | 'face'): Promise<void> {
    const picked = await this.view.ask(
      what === 'edge'
        ? 'Point at the edge that the axes are to follow.'
        : 'Point at the face that the axes are to stand on.',
    );
    if (!picked) return;
    const along = normalized(subtract(picked.edge[1], picked.edge[0]));
    const [x, y, z] =
      what === 'face'
        ? axesFrom(picked.normal, along)
        : ((front: Vec3) => [along, normalized(cross(front, along)), front] as const)(picked.normal);
    this.put({ rotation: quatFromAxes(x, y, z) }, `axes along ${what === 'edge' ? 'an edge' : 'a face'}`);
  }

  /** One rule for many parts; hinges, axles, locks and exceptions keep theirs. */
  protected rule(rule: (typeof RULES)[number]['rule']): void {
    const document = this.document()!;
    const pivots = artNodes(document.nodes).flatMap((i): { part: string; pivot: Pivot | null }[] => {
      const { id, pivot } = document.nodes[i]!;
      if (this.excepted().has(id) || pivot?.locked || (pivot?.hinge && !this.alsoHinges())) return [];
      if (rule === 'keep') return [{ part: id, pivot: null }];
      const bounds = partBounds(document, i);
      const place =
        rule === 'origin' ? [0, 0, 0] : rule === 'centre' ? centreOf(bounds) : baseCentreOf(bounds);
      return [{ part: id, pivot: pivotAt(rule, place as Vec3) }];
    });
    this.store.apply({ kind: 'set-pivots', what: `${pivots.length} pivots to ${rule}`, pivots });
  }

  protected except(id: string): void {
    const next = new Set(this.excepted());
    if (!next.delete(id)) next.add(id);
    this.excepted.set(next);
  }

  protected follow(part: string): void {
    const document = this.document()!;
    const i = document.nodes.findIndex((node) => node.id === (part || this.whose()));
    const { follows: _follows, ...now } = partPivot(document, i);
    const pivot = part ? { ...now, locked: false, follows: part } : now;
    this.store.apply({
      kind: 'set-pivots',
      what: part ? 'pivot kept in step' : 'pivot on its own',
      pivots: [{ part: this.whose(), pivot }],
    });
  }

  /** Joining takes the family's pivot over, with the difference said first. */
  protected join(name: string): void {
    const family = name || null;
    const document = this.document()!;
    const eldest = this.kin()
      .filter((piece) => piece.family === family && family !== null)
      .sort((a, b) => a.id - b.id)[0];
    if (!eldest) {
      this.store.apply({ kind: 'set-family', family });
      return;
    }
    const pivot = familyPivot(document, familyShare(eldest.bounds, eldest.pivot));
    const off = distance(pivot.position, document.pivot.position);
    this.store.proposeChange(
      `Joining “${family}” moves the pivot by ${lengthText(off)}, to where ${eldest.name} has it.`,
      { kind: 'set-family', family, pivot },
      'Join the family',
    );
  }

  protected likePiece(id: number): void {
    const other = this.kin().find((piece) => piece.id === id);
    if (!other) return;
    const pivot = familyPivot(this.document()!, familyShare(other.bounds, other.pivot));
    const off = distance(pivot.position, this.document()!.pivot.position);
    this.store.proposeChange(`The pivot moves by ${lengthText(off)}, to where ${other.name} has it.`, {
      kind: 'set-pivots',
      what: `pivot as ${other.name}`,
      pivots: [{ part: null, pivot: { ...pivot, rotation: other.pivot.rotation } }],
    });
  }
}

/** The parts that a choice can be among. */
interface PieceParts {
  piece: number | undefined;
  nodes: PieceDocument['nodes'];
}

const anchorOf = ({ kind }: Picked): PivotAnchor =>
  kind === 'vertex' ? 'vertex' : kind.startsWith('edge') ? 'edge' : 'face';
