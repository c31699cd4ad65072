import { DeliveryStep } from './delivery/delivery-step';
import { IntakeStep } from './intake/intake-step';
import { NamesStep } from './names/names-step';
import {
  deliveryNote,
  intakeNote,
  namesNote,
  partsNote,
  pivotNote,
  proxiesNote,
  sizeNote,
  trialNote,
} from './notes';
import { PartsStep } from './parts/parts-step';
import { PivotStep } from './pivot/pivot-step';
import { ProxiesStep } from './proxies/proxies-step';
import { SizeStep } from './size/size-step';
import type { Step } from './step';
import { TrialStep } from './trial/trial-step';

/** The steps of the job card in working order. A new step is one line. */
export const STEPS: readonly Step[] = [
  { id: 'intake', number: 1, name: 'Intake', component: IntakeStep, note: intakeNote },
  { id: 'parts', number: 2, name: 'Parts', component: PartsStep, note: partsNote },
  { id: 'size', number: 3, name: 'Size', component: SizeStep, note: sizeNote },
  { id: 'pivot', number: 4, name: 'Pivot', component: PivotStep, note: pivotNote },
  { id: 'proxies', number: 5, name: 'Proxies', component: ProxiesStep, note: proxiesNote },
  { id: 'names', number: 6, name: 'Names', component: NamesStep, note: namesNote },
  { id: 'trial', number: 7, name: 'Trial', component: TrialStep, note: trialNote },
  { id: 'delivery', number: 8, name: 'Delivery', component: DeliveryStep, note: deliveryNote },
];
