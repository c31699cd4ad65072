import { oneOf } from './random.mjs';

const TEXTS = [
  'a',
  'Quay block 01',
  'ä ß',
  'm',
  'a'.repeat(64),
  '2026-11-01T00:00:00.000Z',
  '#8a5a3c',
  '1.0',
  'b-2',
];
const NUMBERS = [0, 1, -1, 0.5, 2, 3, 17, 1e-6, 1e6, 0.1];
/** Beyond that nothing is nested further. */
const DEEPEST = 12;

/**
 * A value that a JSON schema describes, or nearly: texts do not follow patterns, and rules between fields are not known.
 *
 * @param schema as `z.toJSONSchema` writes it, for what goes in
 */
export function valueOfSchema(schema, next, root = schema, depth = 0) {
  const inner = (each) => valueOfSchema(each, next, root, depth + 1);
  if (schema === true || schema === undefined) return oneOf([0, 'a', null, [], {}], next);
  if (schema.$ref) {
    if (depth > DEEPEST) return null;
    const target = schema.$ref === '#' ? root : root.$defs[schema.$ref.slice('#/$defs/'.length)];
    return inner(target);
  }
  if ('const' in schema) return schema.const;
  if (schema.enum) return oneOf(schema.enum, next);
  const options = schema.anyOf ?? schema.oneOf;
  if (options) return inner(oneOf(options, next));
  if (schema.allOf) return Object.assign({}, ...schema.allOf.map(inner));
  switch (schema.type) {
    case 'object':
      return objectOf(schema, next, inner);
    case 'array':
      return arrayOf(schema, next, depth, inner);
    case 'number':
    case 'integer':
      return numberOf(schema, next);
    case 'boolean':
      return next() < 0.5;
    case 'null':
      return null;
    case 'string':
      return textOf(schema, next);
    default:
      return oneOf([0, 'a', null, [], {}], next);
  }
}

/** Texts of a pattern: the digest of bytes, moments, and letters for keys and ids. */
function textOf({ pattern = '', format, maxLength }, next) {
  if (/\{64\}/.test(pattern)) return 'a'.repeat(64);
  if (format === 'date-time') return '2026-11-01T00:00:00.000Z';
  return pattern ? 'b' : oneOf(TEXTS, next).slice(0, maxLength);
}

function objectOf({ properties = {}, required = [], additionalProperties, propertyNames }, next, inner) {
  const made = {};
  for (const [key, property] of Object.entries(properties))
    if (required.includes(key) || next() < 0.5) made[key] = inner(property);
  if (additionalProperties && typeof additionalProperties === 'object')
    for (const key of propertyNames?.enum ?? keys(next)) made[key] = inner(additionalProperties);
  return made;
}

const keys = (next) => Array.from({ length: Math.floor(next() * 3) }, () => oneOf(TEXTS, next));

function arrayOf({ items, prefixItems, minItems = 0, maxItems = Infinity }, next, depth, inner) {
  if (prefixItems) return prefixItems.map(inner);
  const more = depth > DEEPEST ? 0 : Math.floor(next() * 3);
  const length = Math.min(minItems + more, maxItems, 300);
  return Array.from({ length }, () => inner(items));
}

function numberOf({ type, minimum = -Infinity, maximum = Infinity, exclusiveMinimum = -Infinity }, next) {
  const number = oneOf(NUMBERS, next);
  const wanted = Math.max(minimum, Math.min(maximum, number));
  const above = wanted > exclusiveMinimum ? wanted : exclusiveMinimum + 1;
  return type === 'integer' ? Math.ceil(above) : above;
}
