import { ChangeDetectionStrategy, Component } from '@angular/core';
import { FindingList } from '../../finding-list';
import { ContentPanel } from './content-panel';
import { NewArtPanel } from './new-art-panel';
import { SeveralPiecesPanel } from './several-pieces-panel';
import { SourcePanel } from './source-panel';
import { UnitPanel } from './unit-panel';

/** What came in: true size, faults, content, files. */
@Component({
  selector: 'yb-intake-step',
  changeDetection: ChangeDetectionStrategy.OnPush,
  imports: [FindingList, UnitPanel, SeveralPiecesPanel, ContentPanel, SourcePanel, NewArtPanel],
  host: { class: 'step' },
  template: `
    <yb-unit-panel [brief]="true" />
    <yb-finding-list step="intake" />
    <yb-several-pieces-panel />
    <yb-content-panel />
    <yb-source-panel />
    <yb-new-art-panel />
  `,
})
export class IntakeStep {}
