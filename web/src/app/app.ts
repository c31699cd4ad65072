import { ChangeDetectionStrategy, Component } from '@angular/core';
import { RouterOutlet } from '@angular/router';
import { AskDialog } from './ui/ask-dialog';
import { ImportReportPanel } from './ui/import-report-panel';
import { KeyList } from './ui/key-list';
import { NoticeList } from './ui/notice-list';

@Component({
  selector: 'yb-root',
  changeDetection: ChangeDetectionStrategy.OnPush,
  imports: [RouterOutlet, KeyList, ImportReportPanel, NoticeList, AskDialog],
  template: `
    <router-outlet />
    <yb-key-list />
    <yb-import-report />
    <yb-notices />
    <yb-ask-dialog />
  `,
})
export class App {}
