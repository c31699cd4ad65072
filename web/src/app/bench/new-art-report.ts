import {
  ChangeDetectionStrategy,
  Component,
  computed,
  effect,
  inject,
  signal,
  untracked,
} from '@angular/core';
import { toSignal } from '@angular/core/rxjs-interop';
import {
  BESIDE_EXTENSIONS,
  MESH_EXTENSIONS,
  type NewArtReport,
  type PartChange,
  type ProxyFit,
} from '@yard-brace/core';
import { Button } from 'primeng/button';
import { Compute, Stopped } from '../compute/compute';
import { type Arrived, NewArtDesk } from '../shelf/new-art-desk';
import { sortFiles } from '../shelf/sort-files';
import { counted, countText, lengthText, sizeText } from '../shell/figures';
import { Notices } from '../shell/notices';
import { BenchStore, type ChangeProposal } from './bench-store';
import { stepStyles } from './step-styles';

const BECAME: Record<PartChange['became'], string> = {
  same: 'as it was',
  moved: 'moved',
  changed: 'changed',
  new: 'new',
  gone: 'gone',
};

/** New art for the piece: what it would change, before anything is replaced. */
@Component({
  selector: 'yb-new-art-report',
  changeDetection: ChangeDetectionStrategy.OnPush,
  imports: [Button],
  template: `
    <div class="row">
      <input
        #files
        type="file"
        multiple
        hidden
        [accept]="accepted"
        (change)="chosen(files)"
        data-testid="new-art-input"
      />
      <button type="button" class="act" (click)="files.click()">New art for this piece …</button>
    </div>
    @if (report(); as report) {
      <section class="report" data-testid="new-art">
        <p>{{ summary() }}</p>
        <table>
          @for (part of report.parts; track $index) {
            @if (part.became !== 'same') {
              <tr [attr.data-became]="part.became">
                <td>{{ part.name }}</td>
                <td>{{ became[part.became] }}</td>
                <td class="number figures">{{ detail(part) }}</td>
              </tr>
            }
          }
          @for (pivot of report.pivots; track $index) {
            <tr>
              <td>pivot{{ pivot.part ? ' of ' + pivot.name : '' }}</td>
              <td>{{ pivot.off < 1e-5 ? 'stays' : goAlong() ? 'goes along' : 'is put back' }}</td>
              <td class="number figures">{{ millimetres(pivot.off) }}</td>
            </tr>
          }
        </table>
        @if (fits().length) {
          <p data-testid="proxy-fit">{{ fitSummary() }}</p>
          @if (misfits().length) {
            <table>
              <tr>
                <th>no longer fits</th>
                <th class="number">stands out</th>
                <th class="number">art out</th>
              </tr>
              @for (misfit of misfits(); track misfit.number) {
                <tr [attr.data-misfit]="misfit.number">
                  <td>shape {{ misfit.number }}</td>
                  <td class="number figures">{{ change(misfit.proxyOutside) }}</td>
                  <td class="number figures">{{ change(misfit.artOutside) }}</td>
                </tr>
              }
            </table>
          }
        }
        <label
          ><input type="checkbox" [checked]="goAlong()" (change)="letGoAlong(!goAlong())" /> let the pivot go
          along instead of putting it back</label
        >
        <div class="row">
          <p-button
            label="Take the new art"
            size="small"
            (onClick)="store.keepProposal()"
            data-testid="take-new-art"
          />
          <p-button label="Leave" size="small" [outlined]="true" (onClick)="store.leaveProposal()" />
          <span class="faded">Names, pivots, proxies and clearances stay. It can be undone.</span>
        </div>
      </section>
    }
  `,
  styles: [
    stepStyles,
    `
      .report {
        display: grid;
        gap: 6px;
        padding: 8px 10px;
        background: var(--paper);
        border-left: 3px solid var(--tide);
      }
    `,
  ],
})
export class NewArtReportView {
  protected readonly store = inject(BenchStore);
  private readonly compute = inject(Compute);
  private readonly desk = inject(NewArtDesk);
  private readonly notices = inject(Notices);
  private readonly document = toSignal(this.store.document$);
  private readonly piece = toSignal(this.store.piece$);
  private readonly toCompare = toSignal(this.desk.toCompare$, { requireSync: true });
  private readonly change$ = toSignal(this.store.change$, { requireSync: true });
  private readonly compared = signal<{
    report: NewArtReport;
    fits: readonly ProxyFit[];
    says: string;
    change: ChangeProposal;
  } | null>(null);
  /** the report stands as long as its change is on show: kept, left or out of date, it goes with it */
  private readonly standing = computed(() => {
    const compared = this.compared();
    return compared && compared.change === this.change$() ? compared : null;
  });
  protected readonly report = computed(() => this.standing()?.report ?? null);
  protected readonly fits = computed(() => this.standing()?.fits ?? []);
  protected readonly goAlong = signal(false);
  protected readonly accepted = [...MESH_EXTENSIONS, ...BESIDE_EXTENSIONS]
    .map((extension) => `.${extension}`)
    .join();
  protected readonly became = BECAME;
  protected readonly summary = computed(() => {
    const { parts, size } = this.report()!;
    const count = (became: PartChange['became']) => parts.filter((part) => part.became === became).length;
    const words = (['same', 'moved', 'changed', 'new', 'gone'] as const).flatMap((each) =>
      count(each) ? [`${counted(count(each), 'part')} ${BECAME[each]}`] : [],
    );
    const same = size.before.every((v, k) => Math.abs(v - size.after[k]!) < 1e-5);
    return `${words.join(', ')}. ${same ? 'The size is the same' : `${sizeText(size.before)} becomes ${sizeText(size.after)}`}.`;
  });
  protected readonly misfits = computed(() =>
    this.fits()
      .map((fit, i) => ({ ...fit, number: i + 1 }))
      .filter(({ fits }) => !fits),
  );
  protected readonly fitSummary = computed(() => {
    const [all, bad] = [this.fits().length, this.misfits().length];
    if (!bad) return `${all === 1 ? 'The proxy still fits' : `All ${all} proxies still fit`}.`;
    return `${bad} of ${counted(all, 'proxy', 'proxies')} no longer ${bad === 1 ? 'fits' : 'fit'}; the others are left alone.`;
  });

  constructor() {
    effect(() => {
      const arrived = this.toCompare();
      if (!arrived || arrived.piece !== this.piece()?.id || !this.document()) return;
      untracked(() => {
        this.desk.toCompare$.next(null);
        void this.compare(arrived);
      });
    });
  }

  protected chosen(input: HTMLInputElement): void {
    const { meshes } = sortFiles([...(input.files ?? [])]);
    input.value = '';
    const [first] = meshes;
    if (first) void this.compare({ piece: this.piece()!.id, name: '', ...first });
  }

  private async compare({ file, beside }: Arrived): Promise<void> {
    const { document } = this.store;
    try {
      const { report, fits } = await this.compute.run(
        (worker, progress) => worker.newArt(document, file, beside, progress),
        { first: `Reading ${file.name}` },
      );
      if (this.store.document !== document) {
        this.notices.say(
          `${document.name} was changed or left while ${file.name} was compared; compare it again.`,
        );
        return;
      }
      const says = `${file.name} as new art for ${document.name}.`;
      this.goAlong.set(false);
      this.compared.set({ report, fits, says, change: this.propose(report.edit, says) });
    } catch (error) {
      if (!(error instanceof Stopped)) this.notices.error(error);
    }
  }

  protected detail({ became, off, triangles }: PartChange): string {
    if (became === 'new') return `${countText(triangles.after)} triangles`;
    if (became === 'gone') return `${countText(triangles.before)} triangles`;
    return lengthText(off);
  }

  protected change = ({ before, after }: { before: number; after: number }) =>
    `${this.millimetres(before)} → ${this.millimetres(after)}`;

  protected millimetres = (metres: number) => `${(metres * 1000).toFixed(1)} mm`;

  /** The change that is shown is the one that is kept, with whichever button: it follows the box. */
  protected letGoAlong(goAlong: boolean): void {
    const compared = this.compared();
    if (!compared) return;
    this.goAlong.set(goAlong);
    const { report, says } = compared;
    const edit = goAlong ? withPivotsAlong(report) : report.edit;
    this.compared.set({ ...compared, change: this.propose(edit, says) });
  }

  private propose(edit: NewArtReport['edit'], says: string): ChangeProposal {
    return this.store.proposeChange(says, edit, 'Take the new art');
  }
}

/** The new art with its pivots where it brings them, instead of put back. */
function withPivotsAlong({ edit, pivots }: NewArtReport): NewArtReport['edit'] {
  const moved = new Map(pivots.map(({ part, would }) => [part, would]));
  const own = moved.get(null);
  return {
    ...edit,
    pivot: own ? { ...edit.pivot, position: own } : edit.pivot,
    nodes: edit.nodes.map((node) =>
      node.pivot && moved.has(node.id)
        ? { ...node, pivot: { ...node.pivot, position: moved.get(node.id)! } }
        : node,
    ),
  };
}
