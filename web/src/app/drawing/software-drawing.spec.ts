import { namesSoftware } from './software-drawing';

it('a renderer says by its name whether it draws without a graphics card', () => {
  const software = [
    'ANGLE (Google, Vulkan 1.3.0 (SwiftShader Device (Subzero)))',
    'llvmpipe (LLVM 15.0.6, 256 bits)',
  ];
  const cards = [
    'ANGLE (Vendor, Some Card 4000 Direct3D11 vs_5_0 ps_5_0, D3D11)',
    'Some Integrated Graphics',
    '',
  ];
  expect([software, cards].map((names) => names.map(namesSoftware))).toEqual([
    [true, true],
    [false, false, false],
  ]);
});
