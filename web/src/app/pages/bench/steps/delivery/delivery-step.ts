import { ChangeDetectionStrategy, Component } from '@angular/core';
import { FindingList } from '../../finding-list';
import { DeliveredPanel } from './delivered-panel';
import { Deliveries } from './deliveries';
import { DeliverySizes } from './delivery-sizes';
import { DeliverPanel } from './deliver-panel';
import { EarlierPanel } from './earlier-panel';

/** Out of the yard: what goes, the files, and what an importer made of them. */
@Component({
  selector: 'yb-delivery-step',
  changeDetection: ChangeDetectionStrategy.OnPush,
  imports: [FindingList, DeliverPanel, DeliveredPanel, EarlierPanel],
  providers: [Deliveries, DeliverySizes],
  host: { class: 'step' },
  template: `
    <yb-deliver-panel />
    <yb-finding-list step="delivery" />
    <yb-delivered-panel />
    <yb-earlier-panel />
  `,
})
export class DeliveryStep {}
