import type { Vec3 } from '@yard-brace/core';

/** Three lengths as people read them: metres to the centimetre, small things in millimetres. */
export function sizeText(size: readonly number[]): string {
  if (Math.max(...size) >= 0.1) return `${size.map(metresText).join(' × ')} m`;
  return `${size
    .map((value) => (value * 1000).toPrecision(3))
    .map(Number)
    .join(' × ')} mm`;
}

export function metresText(value: number): string {
  const size = Math.abs(value);
  if (size !== 0 && size < 0.01) return value.toFixed(4);
  return size >= 1000 ? value.toFixed(1) : value.toFixed(2);
}

export const placeText = (place: Vec3): string =>
  `${place.map((v) => (Math.abs(v) < 5e-7 ? 0 : v).toFixed(3)).join(', ')} m`;

export function lengthText(metres: number): string {
  const size = Math.abs(metres);
  if (size < 0.001) return `${(metres * 1000).toFixed(2)} mm`;
  return size < 1 ? `${(metres * 1000).toFixed(0)} mm` : `${metres.toFixed(2)} m`;
}

export function volumeText(cubicMetres: number): string {
  if (cubicMetres === 0) return '0 m³';
  if (cubicMetres < 0.001) return `${(cubicMetres * 1e6).toPrecision(3)} cm³`;
  return `${cubicMetres >= 100 ? cubicMetres.toFixed(0) : cubicMetres.toPrecision(3)} m³`;
}

export const countText = (count: number): string => count.toLocaleString('en-GB').replaceAll(',', ' ');

export const counted = (count: number, one: string, many = `${one}s`): string =>
  `${countText(count)} ${count === 1 ? one : many}`;

export function bytesText(bytes: number): string {
  if (bytes < 1000) return `${bytes} B`;
  return bytes < 1e6 ? `${(bytes / 1e3).toFixed(1)} kB` : `${(bytes / 1e6).toFixed(1)} MB`;
}

/** "14:02", with the day when it was another one. */
export function momentText(iso: string, now = new Date()): string {
  const at = new Date(iso);
  const clock = at.toLocaleTimeString('en-GB', { hour: '2-digit', minute: '2-digit' });
  if (at.toDateString() === now.toDateString()) return clock;
  return `${at.toLocaleDateString('en-GB', { day: 'numeric', month: 'short' })}, ${clock}`;
}

export function areaText(squareMetres: number): string {
  return squareMetres < 0.01
    ? `${(squareMetres * 1e4).toPrecision(3)} cm²`
    : `${squareMetres.toPrecision(3)} m²`;
}
