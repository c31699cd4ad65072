import { FormatError, type Place } from '../format-error.js';
import { type PlyHeader, type PlyProperty, SCALAR_BYTES } from './ply-header.js';

/** The numbers of a PLY body one after the other. */
export interface Values {
  next(): number;
  /** the length in front of a list */
  length(): number;
  place(): Place;
  /** how much has been read, 0 to 1 */
  share(): number;
}

/** Longest list of a polygon that is believed. */
const MAX_LIST_VALUES = 1_000_000;

export function asciiValues(file: string, bytes: Uint8Array, header: PlyHeader): Values {
  let at = header.bytes;
  let line = header.lines;
  const fail = (wrong: string): never => {
    throw new FormatError(file, wrong, 'mend the line or export again', { line });
  };
  const next = (): number => {
    while (at < bytes.length && bytes[at]! <= 32) if (bytes[at++] === 10) line++;
    if (at >= bytes.length) fail('the file ends before the counts of its header are reached');
    let text = '';
    while (at < bytes.length && bytes[at]! > 32 && text.length < 64)
      text += String.fromCharCode(bytes[at++]!);
    const value = Number(text);
    if (Number.isNaN(value)) fail(`“${text.slice(0, 20)}” is not a number`);
    return value;
  };
  const length = () => checkedLength(next(), fail);
  return { next, length, place: () => ({ line }), share: () => at / bytes.length };
}

function checkedLength(length: number, fail: (wrong: string) => never): number {
  return Number.isInteger(length) && length >= 0 && length <= MAX_LIST_VALUES
    ? length
    : fail(`a list claims a length of ${length}`);
}

/** Properties are read in the order of the header, over and over: the plan says which type comes next. */
export function binaryValues(file: string, bytes: Uint8Array, header: PlyHeader): Values {
  const view = new DataView(bytes.buffer, bytes.byteOffset, bytes.byteLength);
  const little = header.encoding === 'binary_little_endian';
  let at = header.bytes;
  let element = 0;
  let row = 0;
  let property = 0;
  let left = -1;
  const fail = (wrong: string): never => {
    throw new FormatError(file, wrong, 'export it again', { byte: at });
  };
  const read = (type: PlyProperty['type']): number => {
    if (at + SCALAR_BYTES[type] > bytes.length)
      fail('the file ends before the counts of its header are reached');
    const from = at;
    at += SCALAR_BYTES[type];
    switch (type) {
      case 'int8':
        return view.getInt8(from);
      case 'uint8':
        return view.getUint8(from);
      case 'int16':
        return view.getInt16(from, little);
      case 'uint16':
        return view.getUint16(from, little);
      case 'int32':
        return view.getInt32(from, little);
      case 'uint32':
        return view.getUint32(from, little);
      case 'float32':
        return view.getFloat32(from, little);
      case 'float64':
        return view.getFloat64(from, little);
    }
  };
  const current = (): PlyProperty => {
    while (row >= header.elements[element]!.count || header.elements[element]!.properties.length === 0) {
      element++;
      row = property = 0;
    }
    return header.elements[element]!.properties[property]!;
  };
  const step = () => {
    if (++property < header.elements[element]!.properties.length) return;
    property = 0;
    row++;
  };
  return {
    next() {
      const value = read(current().type);
      if (left > 0) left--;
      if (left <= 0) {
        left = -1;
        step();
      }
      return value;
    },
    length() {
      left = checkedLength(read(current().list!), fail);
      const length = left;
      if (left === 0) {
        left = -1;
        step();
      }
      return length;
    },
    place: () => ({ byte: at }),
    share: () => at / bytes.length,
  };
}
