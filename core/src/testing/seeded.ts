import fc from 'fast-check';

// Properties look at the same cases on every machine and every run; SEED=7 npm run test:core looks at others.
const { process } = globalThis as { process?: { env: Record<string, string | undefined> } };
fc.configureGlobal({ seed: Number(process?.env['SEED'] ?? 20261126) });
