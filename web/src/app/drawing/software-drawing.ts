/** How those name themselves that draw without a graphics card. */
const NAMES = /swiftshader|llvmpipe|softpipe|software|basic render/i;

let known: boolean | undefined;

/** Whether this browser draws without a graphics card: hundreds of times slower, and the page waits for each frame. */
export function drawsInSoftware(): boolean {
  return (known ??= namesSoftware(rendererName()));
}

/** Whether a renderer of this name draws without a graphics card. */
export const namesSoftware = (renderer: string): boolean => NAMES.test(renderer);

function rendererName(): string {
  const context = document.createElement('canvas').getContext('webgl2');
  if (!context) return '';
  const info = context.getExtension('WEBGL_debug_renderer_info');
  const name = String(context.getParameter(info ? info.UNMASKED_RENDERER_WEBGL : context.RENDERER));
  context.getExtension('WEBGL_lose_context')?.loseContext();
  return name;
}
