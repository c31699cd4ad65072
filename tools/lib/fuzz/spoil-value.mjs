import { oneOf } from './random.mjs';

const deep = (levels) => Array.from({ length: levels }).reduce((inner) => [inner], 0);

/** What a field may hold that nobody expects there, as JSON has it. */
const STRANGE = [
  () => null,
  () => true,
  () => 0,
  () => -1,
  () => 0.5,
  () => 1e308,
  () => -1e-320,
  () => Number.MAX_SAFE_INTEGER + 1,
  () => '',
  () => ' ',
  () => '__proto__',
  () => '\ud800',
  () => '‮.\u0000\n',
  () => 'x'.repeat(20_000),
  () => [],
  () => ({}),
  () => [[]],
  () => deep(60),
  () => Array.from({ length: 3000 }, (_, i) => i),
  () => JSON.parse('{"__proto__": {"polluted": true}, "constructor": 1, "toString": 2}'),
];

/** A JSON value with a few things in it wrong; the value itself stays as it is. */
export function spoiledValue(value, next) {
  const holder = { value: structuredClone(value) };
  for (let n = 1 + Math.floor(next() * 3); n > 0; n--) {
    const [at, key] = oneOf(placesIn(holder, next), next);
    const kind = next();
    if (kind < 0.5) at[key] = oneOf(STRANGE, next)();
    else if (kind < 0.65 && at !== holder) removed(at, key);
    else if (kind < 0.75 && Array.isArray(at)) at.push(...Array.from({ length: 40 }, () => at[key]));
    else if (kind < 0.85) {
      const [other, otherKey] = oneOf(placesIn(holder, next), next);
      at[key] = structuredClone(other[otherKey]);
    } else if (typeof at[key] === 'number') at[key] = -at[key] * 1e9;
    else if (at[key] && typeof at[key] === 'object' && !Array.isArray(at[key])) at[key].nobody = 1;
    else at[key] = oneOf(STRANGE, next)();
  }
  return holder.value;
}

function removed(at, key) {
  if (Array.isArray(at)) at.splice(key, 1);
  else delete at[key];
}

/** Some places of a value, as object and key: all the way down one path that is chosen by chance. */
function placesIn(holder, next) {
  const places = [];
  for (let at = holder; at && typeof at === 'object';) {
    const keys = Object.keys(at);
    if (!keys.length) break;
    const key = oneOf(keys, next);
    places.push([at, Array.isArray(at) ? Number(key) : key]);
    at = at[key];
  }
  return places;
}
