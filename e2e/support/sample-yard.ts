import { Application } from './application';
import { test as base } from './bench';

/** Tests in the sample yard as it is after a first start: an application of their own, which the tests of one file share. */
export const inSampleYard = () =>
  base.extend<object, { sample: Application }>({
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
