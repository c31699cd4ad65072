import type Router from '@koa/router';
import {
  idSchema,
  jobListSchema,
  jobPositionsSchema,
  jobPrioritySchema,
  jobReportSchema,
  jobSchema,
  newImportSchema,
  newJobSchema,
  routes,
  takenBackSchema,
} from '@yard-brace/contract';
import * as z from 'zod';
import type { JobStore } from '../jobs/job-store.js';
import { answer, checked, json, received } from './exchange.js';

const fromSchema = z.coerce.number().int().nonnegative().default(0);

/** The addresses of jobs. */
export function addJobRoutes(router: Router, jobs: JobStore): void {
  const id = (ctx: { params: Record<string, string | undefined> }) => checked(idSchema, ctx.params['id']);

  router.get(routes.yardJobs(':id'), async (ctx) => answer(ctx, jobListSchema, await jobs.ofYard(id(ctx))));
  router.post(routes.yardJobs(':id'), json, async (ctx) =>
    answer(ctx, jobSchema, await jobs.begin(id(ctx), received(ctx, newJobSchema)), 201),
  );
  router.post(routes.yardImports(':id'), json, async (ctx) =>
    answer(ctx, jobSchema, await jobs.beginImport(id(ctx), received(ctx, newImportSchema)), 201),
  );
  router.get(routes.job(':id'), async (ctx) =>
    answer(ctx, jobReportSchema, await jobs.report(id(ctx), checked(fromSchema, ctx.query['from']))),
  );
  router.post(routes.jobStopped(':id'), async (ctx) => answer(ctx, jobSchema, await jobs.stop(id(ctx))));
  router.post(routes.jobGoesOn(':id'), async (ctx) => answer(ctx, jobSchema, await jobs.goOn(id(ctx))));
  router.put(routes.jobPriority(':id'), json, async (ctx) =>
    answer(ctx, jobSchema, await jobs.prioritise(id(ctx), received(ctx, jobPrioritySchema).priority)),
  );
  router.post(routes.jobTriedAgain(':id'), json, async (ctx) =>
    answer(ctx, jobSchema, await jobs.tryAgain(id(ctx), received(ctx, jobPositionsSchema).positions)),
  );
  router.post(routes.jobTakenBack(':id'), json, async (ctx) =>
    answer(ctx, takenBackSchema, await jobs.takeBack(id(ctx), received(ctx, jobPositionsSchema).positions)),
  );
}
