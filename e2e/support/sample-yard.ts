import { Application } from './application';
import { test as base } from './bench';

/** The sample yard, as it is after a first start. */
export const test = base.extend<object, { sample: Application }>({
  sample: [
    async ({}, use) => {
      const sample = new Application({ empty: false });
      await sample.start();
      await use(sample);
      await sample.throwAway();
    },
    { scope: 'worker', timeout: 120_000 },
  ],
});
