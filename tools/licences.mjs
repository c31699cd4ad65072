import { execFileSync } from 'node:child_process';
import { existsSync, readFileSync, writeFileSync } from 'node:fs';
import { format } from 'prettier';
import { inHouse } from './lib/house.mjs';
import { run, say } from './lib/say.mjs';

// npm run licences: docs/licences.md and docs/sbom.json, read off the lock file and what is installed.
// npm run licences -- --check: what ships under a licence that nobody looked at, and what has newer versions.

/** Licences that let us ship. Another one is looked at by a person first. */
const KNOWN = new Set([
  'MIT',
  'ISC',
  'BSD-2-Clause',
  'BSD-3-Clause',
  'Apache-2.0',
  '0BSD',
  'OFL-1.1',
  'Zlib',
  'CC0-1.0',
  'Unlicense',
  'BlueOak-1.0.0',
  'Python-2.0',
  'CC-BY-4.0',
]);

/** What is installed for running, by the lock file; our own packages and what only builds and tests are left out. */
function shipped() {
  const { packages } = JSON.parse(readFileSync(inHouse('package-lock.json'), 'utf8'));
  const found = new Map();
  for (const [path, { dev, link, version, integrity }] of Object.entries(packages)) {
    if (!path.startsWith('node_modules/') || dev || link) continue;
    const file = inHouse(path, 'package.json');
    // Parts for other systems are listed and not installed.
    if (!existsSync(file)) continue;
    const { name, license, licenses, author } = JSON.parse(readFileSync(file, 'utf8'));
    const stated =
      typeof license === 'string' ? license : (license?.type ?? licenses?.[0]?.type ?? 'none stated');
    const licence = licenceIn(path, stated);
    found.set(`${name}@${version}`, { name, version, licence, integrity, author: authorOf(author) });
  }
  return [...found.values()].sort((a, b) => (a.name + a.version < b.name + b.version ? -1 : 1));
}

/** Some name a file instead of a licence: its words say which it is. */
function licenceIn(path, stated) {
  const [, name] = /^SEE LICENSE IN (.+)$/i.exec(stated) ?? [];
  const file = name && inHouse(path, name);
  if (!file || !existsSync(file)) return stated;
  return /Permission is hereby granted, free of charge/.test(readFileSync(file, 'utf8')) ? 'MIT' : stated;
}

const authorOf = (author) =>
  (typeof author === 'string' ? author : (author?.name ?? '')).replace(/\s*[<(].*$/, '');

/** One of several that may be chosen from, or all of several that hold together. */
const isKnown = (licence) => {
  const bare = licence.replace(/[()]/g, '');
  return bare.includes(' OR ')
    ? bare.split(' OR ').some((each) => KNOWN.has(each))
    : bare.split(' AND ').every((each) => KNOWN.has(each));
};

function markdown(packages) {
  const counts = new Map();
  for (const { licence } of packages) counts.set(licence, (counts.get(licence) ?? 0) + 1);
  const summary = [...counts].sort((a, b) => b[1] - a[1]).map(([licence, count]) => `${licence} ${count}`);
  return [
    '# Licences of what ships',
    '',
    `Written by \`npm run licences\`. ${packages.length} packages: ${summary.join(', ')}. The fonts Archivo and JetBrains Mono ship under the SIL Open Font License. MariaDB is not shipped: it is installed from Debian.`,
    '',
    '| package | version | licence | by |',
    '| --- | --- | --- | --- |',
    ...packages.map(
      ({ name, version, licence, author }) =>
        `| ${name} | ${version} | ${licence} | ${author.replaceAll('|', '/')} |`,
    ),
    '',
  ].join('\n');
}

/** CycloneDX 1.5. */
const billOfMaterials = (packages) => ({
  bomFormat: 'CycloneDX',
  specVersion: '1.5',
  version: 1,
  metadata: { component: { type: 'application', name: 'yard-brace', version: '0.1.0' } },
  components: packages.map(({ name, version, licence, integrity }) => ({
    type: 'library',
    name,
    version,
    purl: `pkg:npm/${name.replace('@', '%40')}@${version}`,
    licenses: [{ expression: licence }],
    ...(integrity ? { hashes: hashesOf(integrity) } : {}),
  })),
});

const hashesOf = (integrity) =>
  integrity.split(' ').map((each) => {
    const [algorithm, value] = each.split(/-(.*)/s);
    return {
      alg: algorithm.toUpperCase().replace('SHA', 'SHA-'),
      content: Buffer.from(value, 'base64').toString('hex'),
    };
  });

/** Newer versions of what we name ourselves, as the registry has them. */
function outdated() {
  try {
    execFileSync('npm', ['outdated', '--workspaces', '--include-workspace-root'], {
      cwd: inHouse(),
      stdio: 'inherit',
    });
    return { status: 0 };
  } catch ({ status }) {
    return { status };
  }
}

await run(async () => {
  const packages = shipped();
  const foreign = packages.filter(({ licence }) => !isKnown(licence));
  for (const { name, licence } of foreign) say(`${name}: ${licence} was not looked at yet`);
  if (process.argv.includes('--check')) {
    const { status } = outdated();
    process.exitCode = foreign.length || status ? 1 : 0;
    return;
  }
  writeFileSync(inHouse('docs/licences.md'), await format(markdown(packages), { parser: 'markdown' }));
  writeFileSync(inHouse('docs/sbom.json'), `${JSON.stringify(billOfMaterials(packages), null, 2)}\n`);
  say(`${packages.length} packages`);
});
