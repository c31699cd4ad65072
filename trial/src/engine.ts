import RAPIER from '@dimforge/rapier3d-compat';

export type Engine = typeof RAPIER;

let ready: Promise<void> | undefined;

/** The physics engine; its WebAssembly is compiled at the first call. */
export async function engine(): Promise<Engine> {
  ready ??= RAPIER.init();
  await ready;
  return RAPIER;
}
