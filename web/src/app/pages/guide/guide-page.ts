import { ChangeDetectionStrategy, Component, computed, effect, inject, input, signal } from '@angular/core';
import { Router, RouterLink } from '@angular/router';
import { marked } from 'marked';
import { Header } from '../../ui/header';
import { GUIDE_PAGES, guideHtml } from './guide-pages';

/** The guide as it stands beside the code, shipped with the application: one page a task, in the order of the work. */
@Component({
  selector: 'yb-guide-page',
  changeDetection: ChangeDetectionStrategy.OnPush,
  imports: [Header, RouterLink],
  template: `
    <div class="page">
      <yb-header [places]="[{ name: 'Yards', link: '/' }, { name: 'Guide' }]" />
      <main>
        <nav aria-label="Pages of the guide">
          @for (each of pages; track each.id) {
            <a [routerLink]="['/guide', each.id]" [attr.aria-current]="each.id === shown() ? 'page' : null">{{
              each.title
            }}</a>
          }
        </nav>
        @if (missing()) {
          <p>{{ missing() }}</p>
        }
        <!-- Links between pages of the guide stay in the application. -->
        <article [innerHTML]="html()" (click)="follow($event)" data-testid="guide"></article>
      </main>
    </div>
  `,
  styleUrls: ['../deliveries/sheet-page.css'],
  styles: `
    main {
      display: grid;
      grid-template-columns: 170px minmax(0, 1fr);
      align-items: start;
      gap: 20px;
      max-width: 1100px;
      margin: 0 auto;
    }
    nav {
      position: sticky;
      top: 0;
      display: grid;
    }
    nav a {
      padding: 6px 8px;
      border-left: 3px solid transparent;
      color: var(--faded);
      text-decoration: none;
    }
    nav a[aria-current] {
      border-left-color: var(--tide);
      color: var(--ink);
    }
    article {
      width: 100%;
    }
    article ::ng-deep img {
      max-width: 100%;
      height: auto;
      border: 1px solid var(--rule);
    }
    article ::ng-deep p,
    article ::ng-deep li {
      line-height: 1.5;
    }
    article ::ng-deep p {
      margin: 8px 0;
    }
    article ::ng-deep ol {
      padding-left: 20px;
      list-style: decimal;
    }
    article ::ng-deep td,
    article ::ng-deep th {
      padding: 3px 10px 3px 0;
      border-bottom: 1px dotted var(--rule);
      text-align: left;
      vertical-align: top;
    }
  `,
})
export class GuidePage {
  private readonly router = inject(Router);
  /** of the address; the first where there is none */
  readonly page = input('');
  protected readonly pages = GUIDE_PAGES;
  protected readonly shown = computed(
    () => GUIDE_PAGES.find(({ id }) => id === this.page())?.id ?? GUIDE_PAGES[0]!.id,
  );
  protected readonly html = signal('');
  protected readonly missing = signal('');

  constructor() {
    effect(() => void this.load(this.shown()));
  }

  protected follow(event: Event): void {
    const link = (event.target as HTMLElement).closest('a');
    const path = link?.getAttribute('href');
    if (!path?.startsWith('/guide/')) return;
    event.preventDefault();
    void this.router.navigateByUrl(path);
  }

  private async load(id: string): Promise<void> {
    try {
      const response = await fetch(`/guide/${id}.md`);
      if (!response.ok) throw new Error(String(response.status));
      const text = await response.text();
      if (this.shown() === id) this.html.set(guideHtml(await marked.parse(text, { async: true })));
    } catch {
      this.missing.set('The guide cannot be reached just now; the server may be away.');
    }
  }
}
