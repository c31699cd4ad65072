import * as z from 'zod';
import { findingsOf, walkPassed, walkText } from '../../check/index.js';
import { counted, lengthText } from '../../math/figures.js';
import { CONTAINERS, FILE_SPLITS, MAX_VARIANT, PICTURE_PLACES, planToDeliver } from '../../target/index.js';
import { StepError } from '../step-error.js';
import { type StepKind, stepKind } from '../step-kind.js';

const metres = z.number().nonnegative().max(1e6);

const check = stepKind({
  label: 'Check that nothing is wrong',
  parts: false,
  parameters: z.strictObject({
    /** what is no longer let pass */
    severity: z.enum(['error', 'warning']).default('error'),
    maxExcessMetres: metres.optional(),
    maxUncoveredMetres: metres.optional(),
    maxShapes: z.number().int().positive().max(1024).optional(),
  }),
  run(work, { severity, maxExcessMetres, maxUncoveredMetres, maxShapes }) {
    const judged = work.judged();
    const { document, profile, measured } = work;
    const faults = findingsOf(document, work.yard.checks(document, profile), { measured }).filter(
      (finding) =>
        finding.step !== 'trial' &&
        (finding.severity === 'error' || (severity === 'warning' && finding.severity === 'warning')),
    );
    const more = faults.length > 1 ? ` ${counted(faults.length - 1, 'other fault')} beside it.` : '';
    if (faults.length) throw new StepError(faults[0]!.says + more);
    if ((maxExcessMetres ?? maxUncoveredMetres) !== undefined && !judged)
      throw new StepError('It has no shapes that could be measured.');
    if (judged && judged.excess.max > (maxExcessMetres ?? Infinity))
      throw new StepError(
        `Shapes stand out by ${lengthText(judged.excess.max)}, more than ${lengthText(maxExcessMetres!)}.`,
      );
    if (judged && judged.uncovered.max > (maxUncoveredMetres ?? Infinity))
      throw new StepError(
        `Art is uncovered by ${lengthText(judged.uncovered.max)}, more than ${lengthText(maxUncoveredMetres!)}.`,
      );
    if (document.proxies.length > (maxShapes ?? Infinity))
      throw new StepError(`It has ${counted(document.proxies.length, 'shape')}, more than ${maxShapes}.`);
    return 'Nothing is wrong with it.';
  },
});

const trial = stepKind({
  label: 'Send agents from all sides',
  parts: false,
  parameters: z.strictObject({
    /** ids of who walks. Default: for whom the piece is judged */
    agents: z.array(z.string().max(40)).max(12).default([]),
  }),
  async run(work, { agents: ids }) {
    const { document, walk, profile, yard } = work;
    if (!walk) throw new StepError('Trials cannot be run here.');
    if (!document.proxies.length) throw new StepError('It has no shapes that could be tried.');
    const agents = ids.length ? ids.map((id) => work.agentBy(id)) : work.agent ? [work.agent] : [];
    if (!agents.length) throw new StepError('The yard has no agent that could walk.');
    const walks = [];
    for (const [i, agent] of agents.entries())
      walks.push(
        await walk({
          document,
          art: work.colliding.art.mesh,
          profile,
          agent,
          joltMetres: yard.joltMetres,
          progress: (share) => work.progress((i + share) / agents.length),
        }),
      );
    work.keepWalks(walks);
    const says = walks.map((each, i) => `The ${agents[i]!.name} ${walkText(each)}.`);
    if (!walks.every(walkPassed)) throw new StepError(says.join(' '));
    return says.join(' ');
  },
});

const deliver = stepKind({
  label: 'Deliver',
  parts: false,
  parameters: z.strictObject({
    target: z.string().min(1).max(60),
    container: z.enum(CONTAINERS).optional(),
    files: z.enum(FILE_SPLITS).optional(),
    pictures: z.enum(PICTURE_PLACES).optional(),
    variant: z.number().int().min(2).max(MAX_VARIANT).optional(),
  }),
  async run(work, { target, ...choices }) {
    const { document } = work;
    const profile = work.target(target);
    work.judged();
    const stop = findingsOf(document, work.yard.checks(document, profile), { measured: work.measured }).find(
      ({ severity, fails }) => severity === 'error' && !fails,
    );
    if (stop) throw new StepError(`It cannot leave for ${profile.name}: ${stop.says}`);
    const wanted = Object.fromEntries(Object.entries(choices).filter(([, value]) => value !== undefined));
    const plan = await planToDeliver(document, profile, wanted);
    work.leaving.push({ target, choices: wanted });
    const shapes = plan.files.flatMap(({ nodes }) => nodes.flatMap((node) => node.shapes)).length;
    return `It leaves for ${profile.name} with ${counted(shapes, 'shape')}.`;
  },
});

/** What has to be so before it leaves, and where it goes. */
export const CHECK_STEPS: Readonly<Record<string, StepKind>> = { check, trial, deliver };
