import {
  ChangeDetectionStrategy,
  Component,
  computed,
  effect,
  inject,
  input,
  numberAttribute,
  signal,
  untracked,
} from '@angular/core';
import { toSignal } from '@angular/core/rxjs-interop';
import { FormsModule } from '@angular/forms';
import { Router } from '@angular/router';
import type { SetOutEntry } from '@yard-brace/contract';
import { emptySetOut, MAX_NAME_CHARACTERS } from '@yard-brace/core';
import { Button } from 'primeng/button';
import { InputText } from 'primeng/inputtext';
import { Splitter } from 'primeng/splitter';
import { Api } from '../../api/api';
import { sentenceOf } from '../../api/told';
import { ImportReports } from '../../state/import-report';
import { Notices } from '../../state/notices';
import { PiecePictures } from '../../state/piece-pictures';
import { Picking } from '../../state/picking';
import { SetOutActs } from '../../state/set-out-acts';
import { SetOutDrag } from '../../state/set-out-drag';
import { SetOutLookStore } from '../../state/set-out-look';
import { SetOutSelection } from '../../state/set-out-selection';
import { SetOutStore } from '../../state/set-out-store';
import { SET_OUT_STORES } from '../../state/set-out-stores';
import { ShelfStore } from '../../state/shelf-store';
import { Ask } from '../../ui/ask';
import { Choice } from '../../ui/choice';
import { Gutters } from '../../ui/gutters';
import { Header } from '../../ui/header';
import { Keymap } from '../../ui/keymap';
import type { Leavable } from '../../ui/leave-saved';
import { PickPrompt } from '../../ui/pick-prompt';
import { PlayBar } from '../../ui/play-bar';
import { SaveNotice } from '../../ui/save-notice';
import { UndoBar } from '../../ui/undo-bar';
import { DriveBar } from '../../ui/drive-bar';
import { WalkBar } from '../../ui/walk-bar';
import { YardPlaces } from '../../ui/yard-places';
import { PieceStrip } from './piece-strip';
import { SetOutBar } from './set-out-bar';
import { SetOutLine } from './set-out-line';
import { SetOutSheet } from './set-out-sheet';
import { SetOutView } from './set-out-view';

/** Pieces together: placed on the grid, looked at whether they meet, walked across, delivered. */
@Component({
  selector: 'yb-set-out-page',
  changeDetection: ChangeDetectionStrategy.OnPush,
  imports: [
    Button,
    Choice,
    FormsModule,
    Gutters,
    Header,
    InputText,
    PickPrompt,
    PlayBar,
    PieceStrip,
    SaveNotice,
    SetOutBar,
    SetOutLine,
    SetOutSheet,
    SetOutView,
    Splitter,
    UndoBar,
    WalkBar,
    DriveBar,
    YardPlaces,
  ],
  providers: SET_OUT_STORES,
  host: { '(window:beforeunload)': 'closing($event)' },
  template: `
    <div class="page">
      <yb-header
        [places]="[
          { name: 'Yards', link: '/' },
          { name: yard()?.name ?? '…', link: '/yards/' + yardId() },
        ]"
      >
        <yb-yard-places start [yardId]="yardId()" here="set-out" />
        @if (open()) {
          <yb-undo-bar />
        }
      </yb-header>
      <yb-save-notice />
      <main>
        <h1 class="sr-only">Set-out</h1>
        <div class="tools">
          @if (list().length) {
            <yb-choice
              label="Set-out"
              [options]="choices()"
              [value]="open()?.id ?? null"
              (chosen)="show($event)"
            />
          }
          @if (open()) {
            <input
              pInputText
              pSize="small"
              type="text"
              class="name"
              aria-label="Name of the set-out"
              [attr.maxlength]="maxName"
              [value]="name()"
              #called
              (change)="rename(called)"
            />
            <button type="button" class="act" (click)="remove()">Remove this set-out</button>
          }
          <button type="button" class="act" (click)="begin()" data-testid="new-set-out">New set-out</button>
        </div>
        @if (missing()) {
          <p class="empty">{{ missing() }}</p>
        } @else if (open()) {
          <p-splitter
            [panelSizes]="[11.7, 60.2, 28.1]"
            [minSizes]="[8, 30, 24]"
            [gutterSize]="5"
            [style]="{ height: '100%', minHeight: 0, border: 0, borderRadius: 0 }"
            stateKey="yard-brace.set-out"
            stateStorage="local"
            [ybGutters]="['Width of the pieces', 'Width of the view']"
          >
            <ng-template #panel><yb-piece-strip [pieces]="yard()?.shelf ?? []" /></ng-template>
            <ng-template #panel>
              <div class="middle">
                <div class="views" [class.two]="look().views === 'both'">
                  <yb-set-out-bar />
                  @if (look().views !== 'free') {
                    <yb-set-out-view [plan]="true" />
                  }
                  @if (look().views !== 'plan') {
                    <yb-set-out-view [plan]="false" />
                  }
                  <div class="foot">
                    <yb-pick-prompt />
                    <yb-play-bar />
                    <yb-walk-bar />
                    <yb-drive-bar />
                  </div>
                </div>
                <yb-set-out-line />
              </div>
            </ng-template>
            <ng-template #panel><yb-set-out-sheet [pieces]="yard()?.shelf ?? []" /></ng-template>
          </p-splitter>
        } @else if (loaded()) {
          <div class="empty">
            <p>
              A set-out is where pieces stand together: to see that they meet, to walk across them, and to
              deliver them as they stand.
            </p>
            <p-button label="Lay out the first set-out" size="small" (onClick)="begin()" />
          </div>
        }
      </main>
    </div>
  `,
  styleUrl: './set-out-page.css',
})
export class SetOutPage implements Leavable {
  private readonly store = inject(SetOutStore);
  private readonly shelf = inject(ShelfStore);
  private readonly api = inject(Api);
  private readonly notices = inject(Notices);
  private readonly ask = inject(Ask);
  private readonly router = inject(Router);
  readonly yardId = input.required({ transform: numberAttribute });
  /** number of the set-out, from the address */
  readonly set = input<number | undefined, unknown>(undefined, {
    transform: (value) => (value === undefined ? undefined : numberAttribute(value)),
  });
  protected readonly yard = toSignal(this.shelf.yard$, { initialValue: null });
  protected readonly open = toSignal(this.store.open$, { requireSync: true });
  private readonly setOut = toSignal(this.store.setOut$, { initialValue: null });
  protected readonly look = toSignal(inject(SetOutLookStore).look$, { requireSync: true });
  protected readonly list = signal<readonly SetOutEntry[]>([]);
  protected readonly loaded = signal(false);
  protected readonly missing = signal('');
  protected readonly maxName = MAX_NAME_CHARACTERS;
  protected readonly name = computed(() => this.setOut()?.name ?? '');
  protected readonly choices = computed(() =>
    this.list().map(({ id, name }) => ({ label: id === this.open()?.id ? this.name() : name, value: id })),
  );

  constructor() {
    // What became of an import is a line from here on: it lay over the plan.
    inject(ImportReports).fold();
    inject(PiecePictures);
    bindKeys();
    effect(() => {
      const yard = this.yardId();
      const wanted = this.set();
      untracked(() => void this.load(yard, wanted));
    });
  }

  async mayLeave(): Promise<boolean> {
    if (!this.store.unsaved) return true;
    await this.store.settled().catch(() => undefined);
    if (!this.store.unsaved) return true;
    return this.ask.ask({
      title: 'The last change is not saved',
      text: 'It is kept in this browser and comes back when you open the set-out again.',
      accept: 'Leave now',
      reject: 'Stay',
    });
  }

  protected closing(event: BeforeUnloadEvent): void {
    if (this.open() && this.store.unsaved) event.preventDefault();
  }

  protected rename(field: HTMLInputElement): void {
    this.store.rename(field.value);
    field.value = this.name();
  }

  protected async show(id: number): Promise<void> {
    this.missing.set('');
    try {
      await this.store.open(id);
      await this.router.navigate([], { queryParams: { set: id }, replaceUrl: true });
    } catch (error) {
      this.store.leave();
      this.missing.set(sentenceOf(error));
    }
  }

  protected async begin(): Promise<void> {
    try {
      const taken = new Set(this.list().map(({ name }) => name));
      let n = this.list().length + 1;
      while (taken.has(`Set-out ${n}`)) n++;
      const entry = await this.api.addSetOut(this.yardId(), emptySetOut(`Set-out ${n}`));
      this.list.update((all) => [...all, entry]);
      await this.show(entry.id);
    } catch (error) {
      this.notices.error(error);
    }
  }

  protected async remove(): Promise<void> {
    const open = this.open();
    if (!open) return;
    const sure = await this.ask.ask({
      title: `Remove “${this.name()}”?`,
      text: 'What stands where is gone for good; the pieces stay on the shelf.',
      accept: 'Remove the set-out',
      reject: 'Keep it',
      destructive: true,
    });
    if (!sure) return;
    try {
      await this.api.removeSetOut(open.id);
      this.store.leave();
      const left = this.list().filter(({ id }) => id !== open.id);
      this.list.set(left);
      if (left[0]) await this.show(left[0].id);
    } catch (error) {
      this.notices.error(error);
    }
  }

  private async load(yardId: number, wanted: number | undefined): Promise<void> {
    if (wanted !== undefined && this.open()?.id === wanted) return;
    void this.shelf.load(yardId).catch((error: unknown) => this.notices.error(error));
    try {
      const list = await this.api.setOuts(yardId);
      if (yardId !== this.yardId()) return;
      this.list.set(list);
      this.loaded.set(true);
      const first = list.find(({ id }) => id === wanted) ?? list[0];
      if (wanted !== undefined && first?.id !== wanted)
        this.missing.set('That set-out was removed; choose another one or begin a new one.');
      else if (first) await this.show(first.id);
    } catch (error) {
      this.missing.set(sentenceOf(error));
    }
  }
}

/** The keys of the page, for as long as it is open. */
function bindKeys(): void {
  const keymap = inject(Keymap);
  const acts = inject(SetOutActs);
  const drag = inject(SetOutDrag);
  const looks = inject(SetOutLookStore);
  const selection = inject(SetOutSelection);
  const picking = inject(Picking);
  keymap.bind([
    { keys: ['Home'], help: 'fit the set-out to the view', act: () => looks.goTo() },
    { keys: ['R'], help: 'a quarter turn', act: () => void (drag.turnInHand() || acts.turn(90)) },
    {
      keys: ['Delete', 'Backspace'],
      label: 'Delete',
      help: 'delete what is chosen',
      act: () => acts.delete(),
    },
    {
      keys: ['H'],
      help: 'leave what is chosen out of the picture',
      act: () => looks.set({ hidden: new Set([...looks.look.hidden, ...selection.ids]) }),
    },
  ]);
  keymap.note([
    { label: 'drag', help: 'move what is chosen; Alt held catches nothing' },
    { label: 'Shift click', help: 'choose more; put one piece after the other' },
    { label: 'Alt click', help: 'choose one member of a group' },
  ]);
  keymap.onEscape('pick', () => picking.cancel() || drag.letGo());
  keymap.onEscape('drag', () => drag.cancel());
  keymap.onEscape('selection', () => {
    const any = selection.ids.size > 0;
    selection.set([]);
    return any;
  });
}
