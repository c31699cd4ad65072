import { ChangeDetectionStrategy, Component, DestroyRef, inject, signal } from '@angular/core';
import { FormsModule } from '@angular/forms';
import { Router, RouterLink } from '@angular/router';
import { type BinEntry, routes, type Yard } from '@yard-brace/contract';
import { Button } from 'primeng/button';
import { InputText } from 'primeng/inputtext';
import { Api } from '../../api/api';
import { Ask } from '../../ui/ask';
import { BinList } from '../../ui/bin-list';
import { Header } from '../../ui/header';
import { ImportReports } from '../../state/import-report';
import { Clock } from '../../state/clock';
import { Notices } from '../../state/notices';
import { momentText } from '../../ui/moment';
import { counted, lengthText } from '@yard-brace/core';
import { targetNames } from '../../ui/target-names';

/** How long after an answer the list is asked for again: others make yards, and the sample yard may be on its way. */
export const YARDS_AGAIN_MS = 4000;

/** The list of yards. */
@Component({
  selector: 'yb-yards-page',
  changeDetection: ChangeDetectionStrategy.OnPush,
  imports: [BinList, Header, RouterLink, FormsModule, Button, InputText],
  template: `
    <yb-header [places]="[{ name: 'Yards' }]" />
    <main>
      <h1>Yards</h1>
      <p class="faded lead">A yard is one kit of pieces under one set of rules.</p>
      <ul>
        @for (yard of yards(); track yard.id) {
          <li>
            <a [routerLink]="['/yards', yard.id]">
              <b>{{ yard.name }}</b>
              <span class="faded"
                >{{ counted(yard.pieces, 'piece') }}, for {{ targets(yard) }}, grid
                {{ lengthText(yard.rules.gridMetres) }}</span
              >
              <span class="figures faded">changed {{ momentText(yard.changedAt) }}</span>
            </a>
            <button
              type="button"
              class="quiet-button"
              [attr.aria-label]="'Export ' + yard.name"
              title="The whole yard as one file, for another Yard Brace"
              (click)="export(yard)"
            >
              Export
            </button>
            <button
              type="button"
              class="quiet-button"
              [attr.aria-label]="'Remove ' + yard.name"
              (click)="remove(yard)"
            >
              Remove
            </button>
          </li>
        } @empty {
          @if (loaded()) {
            <li class="faded none">
              There is no yard yet. Name one below, then drop your files on its shelf.
            </li>
          }
        }
      </ul>
      @if (bin().length) {
        <yb-bin-list of="yards" [entries]="bin()" (changed)="load()" />
      }
      <form (ngSubmit)="create()">
        <label for="yard-name">New yard</label>
        <input
          pInputText
          pSize="small"
          id="yard-name"
          name="name"
          maxlength="120"
          [(ngModel)]="name"
          placeholder="Name of the yard"
        />
        <p-button type="submit" label="Create yard" size="small" [disabled]="!name().trim()" />
        <span class="gap"></span>
        <input #file type="file" accept=".tar" hidden (change)="importYard(file)" data-testid="yard-file" />
        <button type="button" class="act" [disabled]="importing()" (click)="file.click()">
          {{ importing() ? 'Importing …' : 'Import a yard' }}
        </button>
      </form>
    </main>
  `,
  styles: `
    main {
      max-width: 760px;
      margin: 40px auto;
      padding: 0 20px;
    }
    h1 {
      font-size: 20px;
    }
    .lead {
      margin: 2px 0 18px;
    }
    ul {
      border-top: 1px solid var(--ink);
    }
    li {
      display: flex;
      align-items: center;
      border-bottom: 1px solid var(--rule);
    }
    li a {
      flex: 1;
      display: grid;
      grid-template-columns: 1fr auto auto;
      gap: 24px;
      padding: 12px 10px;
      color: var(--ink);
      text-decoration: none;
    }
    li a:hover {
      background: var(--card);
    }
    .none {
      padding: 12px 10px;
    }
    yb-bin-list {
      margin-top: 18px;
    }
    form {
      display: flex;
      align-items: center;
      gap: 10px;
      margin-top: 18px;
    }
    .gap {
      flex: 1;
    }
    input {
      width: 280px;
    }
  `,
})
export class YardsPage {
  private readonly api = inject(Api);
  private readonly router = inject(Router);
  private readonly notices = inject(Notices);
  private readonly ask = inject(Ask);
  private readonly clock = inject(Clock);
  /** what was asked for before the last asking is not heard */
  private asked = 0;
  protected readonly yards = signal<Yard[]>([]);
  protected readonly loaded = signal(false);
  /** yards that were removed and can be put back */
  protected readonly bin = signal<readonly BinEntry[]>([]);
  protected readonly importing = signal(false);
  protected readonly name = signal('');
  protected readonly counted = counted;
  protected readonly lengthText = lengthText;
  protected readonly targets = targetNames;
  protected readonly momentText = momentText;

  constructor() {
    // What was imported into a yard would lie over the list of them.
    inject(ImportReports).fold();
    inject(DestroyRef).onDestroy(() => this.asked++);
    void this.load();
  }

  protected load = (): Promise<void> => this.list().catch((error: unknown) => this.notices.error(error));

  private async list(): Promise<void> {
    const asked = ++this.asked;
    try {
      const [yards, bin] = await Promise.all([this.api.yards(), this.api.yardsInBin()]);
      if (asked !== this.asked) return;
      this.yards.set(yards);
      this.bin.set(bin);
      this.loaded.set(true);
    } finally {
      // Nobody asked for that: what does not get through is no news.
      this.clock.after(YARDS_AGAIN_MS, () => {
        if (asked === this.asked) this.list().catch(() => undefined);
      });
    }
  }

  protected async remove({ id, name, pieces }: Yard): Promise<void> {
    const sure = await this.ask.ask({
      title: `Remove the yard ${name}?`,
      text: `It goes into the bin with ${counted(pieces, 'piece')}, and can be put back for thirty days.`,
      accept: 'Remove the yard',
      reject: 'Keep',
      destructive: true,
    });
    if (!sure) return;
    await this.api.removeYard(id).catch((error: unknown) => this.notices.error(error));
    await this.load();
  }

  /** It comes as a file; the page stays. */
  protected export({ id }: Yard): void {
    globalThis.location.assign(routes.yardArchive(id));
  }

  /** A yard that was exported here or elsewhere comes in whole, beside those that are there. */
  protected async importYard(input: HTMLInputElement): Promise<void> {
    const [file] = input.files ?? [];
    input.value = '';
    if (!file) return;
    this.importing.set(true);
    try {
      const { yards } = await this.api.importYards(file);
      this.notices.say(`${counted(yards.length, 'yard')} imported.`);
    } catch (error) {
      this.notices.error(error);
    } finally {
      this.importing.set(false);
      await this.load();
    }
  }

  protected async create(): Promise<void> {
    try {
      const yard = await this.api.createYard(this.name().trim());
      await this.router.navigate(['/yards', yard.id]);
    } catch (error) {
      this.notices.error(error);
    }
  }
}
