import { FormatError } from '../format-error.js';

export type Scalar = 'int8' | 'uint8' | 'int16' | 'uint16' | 'int32' | 'uint32' | 'float32' | 'float64';
export const SCALAR_BYTES: Record<Scalar, number> = {
  int8: 1,
  uint8: 1,
  int16: 2,
  uint16: 2,
  int32: 4,
  uint32: 4,
  float32: 4,
  float64: 8,
};
const SPELLINGS: Record<string, Scalar> = {
  char: 'int8',
  uchar: 'uint8',
  short: 'int16',
  ushort: 'uint16',
  int: 'int32',
  uint: 'uint32',
  float: 'float32',
  double: 'float64',
  ...(Object.fromEntries(Object.keys(SCALAR_BYTES).map((name) => [name, name])) as Record<string, Scalar>),
};

export interface PlyProperty {
  name: string;
  type: Scalar;
  /** type of the length in front of a list */
  list?: Scalar;
}
export interface PlyElement {
  name: string;
  count: number;
  properties: PlyProperty[];
}
export interface PlyHeader {
  encoding: 'ascii' | 'binary_little_endian' | 'binary_big_endian';
  elements: PlyElement[];
  /** bytes to the first element */
  bytes: number;
  lines: number;
  /** numbers of lines that do not belong there */
  strays: number[];
}

/** Longest header that is looked for, in bytes. */
const LONGEST = 1 << 20;

/** @throws FormatError with the line of what is wrong */
export function readPlyHeader(file: string, bytes: Uint8Array): PlyHeader {
  const fail = (wrong: string, line: number): never => {
    throw new FormatError(file, wrong, 'mend the header or export again', { line });
  };
  const text = new TextDecoder().decode(bytes.subarray(0, LONGEST));
  if (!/^ply\r?\n/.test(text)) fail('the file does not start with “ply”', 1);
  const end = /\nend_header(\r?\n|$)/.exec(text);
  if (!end) fail('the header has no “end_header”', 1);
  const headerText = text.slice(0, end!.index);
  const header: PlyHeader = {
    encoding: 'ascii',
    elements: [],
    // The header is ASCII by its format; comments may not be, so bytes are counted and not characters.
    bytes: new TextEncoder().encode(text.slice(0, end!.index + end![0].length)).length,
    lines: headerText.split('\n').length + 1,
    strays: [],
  };
  let format = '';
  headerText.split(/\r?\n/).forEach((line, i) => {
    const words = line.trim().split(/\s+/);
    const [keyword, first = '', second = '', third = '', fourth = ''] = words;
    const number = i + 1;
    if (i === 0 || keyword === 'comment' || keyword === 'obj_info' || keyword === '') return;
    if (keyword === 'format') {
      format = first;
      if (!['ascii', 'binary_little_endian', 'binary_big_endian'].includes(first))
        fail(`the format “${first.slice(0, 30)}” is not known`, number);
      header.encoding = first as PlyHeader['encoding'];
    } else if (keyword === 'element') {
      const count = Number(second);
      if (!Number.isSafeInteger(count) || count < 0)
        fail(`the element “${first.slice(0, 30)}” has no count`, number);
      header.elements.push({ name: first, count, properties: [] });
    } else if (keyword === 'property') {
      const element = header.elements.at(-1);
      if (!element) fail('a property stands before the first element', number);
      const isList = first === 'list';
      const type = SPELLINGS[isList ? third : first];
      const list = isList ? SPELLINGS[second] : undefined;
      if (!type || (isList && !list))
        fail(`the property type in “${line.trim().slice(0, 40)}” is not known`, number);
      element!.properties.push({ name: isList ? fourth : second, type: type!, ...(list ? { list } : {}) });
    } else header.strays.push(number);
  });
  if (!format) fail('the header does not say its format', 1);
  return header;
}
