/** Another name, with the one it came with remembered: new art is matched by it. */
export const renamed = <T extends { name: string; cameAs?: string }>(thing: T, name: string): T => ({
  ...thing,
  name,
  cameAs: thing.cameAs ?? thing.name,
});
