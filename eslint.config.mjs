import js from '@eslint/js';
import tseslint from 'typescript-eslint';

/** The rooms of the core, in order: each may use only those above it. */
const ROOMS = [
  'math',
  'mesh',
  'solid',
  'shape',
  'hull',
  'fit',
  'edit-shape',
  'compare',
  'decompose',
  'piece',
  'naming',
  'check',
  'set-out',
  'format',
  'target',
  'recipe',
  'rules',
];

/** The rooms of the client, likewise. `drawing` is what the page and the workers draw alike. */
const CLIENT_ROOMS = ['theme', 'api', 'drawing', 'workers', 'state', 'ui', 'viewport', 'pages'];

const forbid = (...patterns) => ({ 'no-restricted-imports': ['error', { patterns }] });
const PLATFORMS = {
  regex: '^(node:|@angular|koa|typeorm|primeng|three|fs$|path$)',
  message: 'The core knows no platform.',
};

/** A room uses only those above it in the list, and no helper of tests. */
const onlyAbove = (rooms, i) => ({
  regex: `(^|/)\\.\\./(?:\\.\\./)*(?:${['testing', ...rooms.slice(i + 1)].join('|')})/`,
  message: `${rooms[i]} may use only the rooms above it.`,
});

const roomRules = ROOMS.map((room, i) => ({
  files: [`core/src/${room}/**/*.ts`],
  ignores: ['**/*.spec.ts'],
  rules: forbid(PLATFORMS, onlyAbove(ROOMS, i)),
}));

/** Imports run one way: doors call the contract, the contract calls the core. */
const onlyInward = (forbidden) => [
  { regex: `^@yard-brace/(${forbidden})(/|$)`, message: 'Imports run one way: doors -> contract -> core.' },
  {
    regex: '^(\\.\\./)+(core|trial|contract|server|web|cli|demo)/',
    message: 'Use the package, not its files.',
  },
  { regex: '^@yard-brace/[a-z]+/', message: 'A package is used by its public face.' },
];

const doors = (own, forbidden) => ({
  files: [`${own}/src/**/*.ts`],
  rules: forbid(...onlyInward(forbidden)),
});

const clientRules = CLIENT_ROOMS.map((room, i) => ({
  files: [`web/src/app/${room}/**/*.ts`],
  ignores: ['**/*.spec.ts'],
  rules: forbid(...onlyInward('server|web|cli|demo'), onlyAbove(CLIENT_ROOMS, i)),
}));

export default tseslint.config(
  {
    ignores: [
      '**/node_modules/**',
      '**/dist/**',
      '.build/**',
      '.yard/**',
      'web/.angular/**',
      '**/test-results/**',
      '**/*.d.ts',
    ],
  },
  js.configs.recommended,
  ...tseslint.configs.recommended,
  {
    languageOptions: {
      globals: {
        process: 'readonly',
        console: 'readonly',
        URL: 'readonly',
        setTimeout: 'readonly',
        fetch: 'readonly',
        performance: 'readonly',
        Buffer: 'readonly',
        clearTimeout: 'readonly',
        TextDecoder: 'readonly',
        AbortController: 'readonly',
        structuredClone: 'readonly',
        AbortSignal: 'readonly',
      },
    },
    rules: {
      '@typescript-eslint/no-non-null-assertion': 'off',
      '@typescript-eslint/consistent-type-imports': [
        'error',
        { fixStyle: 'inline-type-imports', disallowTypeAnnotations: false },
      ],
      '@typescript-eslint/no-unused-vars': ['error', { argsIgnorePattern: '^_', varsIgnorePattern: '^_' }],
      'no-restricted-properties': [
        'error',
        { object: 'Math', property: 'random', message: 'Same input, same output: use a seed.' },
      ],
      eqeqeq: 'error',
    },
  },
  {
    files: ['**/*.cjs'],
    languageOptions: { globals: { module: 'writable', require: 'readonly' } },
    rules: { '@typescript-eslint/no-require-imports': 'off' },
  },
  // Fixtures of the end-to-end runner name what they need by destructuring, and some need nothing.
  { files: ['e2e/**/*.ts'], rules: { 'no-empty-pattern': 'off' } },
  ...roomRules,
  doors('trial', 'server|web|cli|demo|contract|trial'),
  doors('contract', 'server|web|cli|demo|contract|trial'),
  doors('server', 'server|web|cli|demo'),
  doors('web', 'server|web|cli|demo'),
  ...clientRules,
  doors('cli', 'server|web|demo|contract'),
  doors('demo', 'server|web|cli|demo'),
);
