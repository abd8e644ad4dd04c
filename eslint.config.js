import boundaries from 'eslint-plugin-boundaries';
import vue from 'eslint-plugin-vue';
import tseslint from 'typescript-eslint';

/** Imports run one way: core <- contract <- server and web; demo over core; e2e and tools may use everything. */
const allowed = {
  core: ['core'],
  contract: ['core', 'contract'],
  server: ['core', 'contract', 'server', 'demo', 'tools'],
  web: ['core', 'contract', 'web'],
  demo: ['core', 'demo'],
  tools: ['core', 'contract', 'server', 'demo', 'tools', 'web'],
  e2e: ['core', 'contract', 'server', 'demo', 'tools', 'e2e'],
};

/**
 * Areas of the browser and of the server are fenced too: what an area may use beside itself. An area of the
 * browser uses what all share, never another area; one of the server may build on those named here.
 */
const webShared = ['device', 'parts', 'drawing', 'testing'];
const webAreas = {
  drawing: ['testing'],
  device: ['testing'],
  parts: ['device', 'drawing', 'testing'],
  testing: ['device', 'parts'],
  app: webShared,
  today: webShared,
  people: webShared,
  classes: [...webShared, 'desk'],
  assess: webShared,
  desk: webShared,
  commands: [...webShared, 'desk'],
  practice: [...webShared, 'desk', 'commands'],
  exercise: webShared,
  calibration: webShared,
  teach: webShared,
  settings: webShared,
  insight: webShared,
  verify: webShared,
};
const serverShared = ['http', 'data', 'jobs', 'print'];
const serverAreas = {
  http: ['accounts', 'data'],
  data: ['http', 'jobs', 'accounts'],
  print: [],
  // The registry of heavy work names the work of every area.
  jobs: ['http', 'data', 'print', 'accounts', 'people', 'classes', 'assess', 'teach', 'practice'],
  accounts: serverShared,
  classes: [...serverShared, 'accounts', 'certification'],
  certification: [...serverShared, 'accounts', 'classes'],
  machines: [...serverShared, 'accounts', 'classes'],
  assess: [...serverShared, 'accounts', 'certification', 'classes', 'calibration'],
  today: [...serverShared, 'accounts', 'certification', 'assess', 'calibration'],
  people: [...serverShared, 'accounts', 'certification', 'assess'],
  calibration: [...serverShared, 'accounts', 'certification', 'classes'],
  teach: [...serverShared, 'accounts', 'certification', 'classes'],
  exercise: [...serverShared, 'accounts', 'classes', 'practice'],
  insight: [...serverShared, 'accounts', 'assess', 'classes', 'calibration'],
  practice: [...serverShared, 'accounts', 'certification', 'classes', 'people'],
};
const areasOf = (side, areas) =>
  Object.keys(areas).map((area) => ({ type: `${side}/${area}`, pattern: `${side}/src/${area}` }));
const sides = { web: webAreas, server: serverAreas };
/** What an area may use: itself, its named neighbours, and the packages its side may use. */
const areaPolicies = Object.entries(sides).flatMap(([side, areas]) =>
  Object.entries(areas).map(([area, may]) => ({
    from: `${side}/${area}`,
    to: [area, ...may].map((each) => `${side}/${each}`).concat(allowed[side].filter((each) => each !== side)),
  })),
);
/** What stands above the areas (the frame, the entry, tests over the whole) may use all of them. */
const everyArea = (side) => Object.keys(sides[side]).map((area) => `${side}/${area}`);
const topPolicies = Object.entries(allowed).map(([from, to]) => ({
  from,
  to: to.flatMap((each) => (each in sides ? [each, ...everyArea(each)] : [each])),
}));
const appPolicy = { from: 'web/app', to: everyArea('web') };
const elements = [
  ...areasOf('web', webAreas),
  ...areasOf('server', serverAreas),
  ...Object.keys(allowed).map((type) => ({ type, pattern: type })),
];
const packages = {
  core: ['@rounds/core', '@rounds/core/*'],
  contract: ['@rounds/contract', '@rounds/contract/*'],
  server: ['@rounds/server'],
  demo: ['@rounds/demo'],
};

const fences = Object.entries(allowed).map(([area, may]) => ({
  files: [`${area}/**/*.{ts,vue}`],
  rules: {
    'no-restricted-imports': [
      'error',
      {
        patterns: Object.entries(packages)
          .filter(([name]) => !may.includes(name))
          .flatMap(([, names]) =>
            names.map((name) => ({ group: [name], message: `${area} may not import ${name}` })),
          ),
      },
    ],
  },
}));

export default tseslint.config(
  { ignores: ['**/node_modules/**', '**/dist/**', '.cache/**', '.data/**', 'server/migrations/**'] },
  ...tseslint.configs.recommended,
  ...vue.configs['flat/recommended'],
  {
    files: ['**/*.{ts,vue,js,mjs}'],
    plugins: { boundaries },
    settings: {
      'boundaries/elements': elements,
      'boundaries/include': ['{core,contract,server,web,demo,e2e,tools}/**/*'],
      'import/resolver': { node: { extensions: ['.ts', '.vue', '.mjs'] } },
    },
    languageOptions: { parserOptions: { parser: tseslint.parser, sourceType: 'module' } },
    rules: {
      'boundaries/dependencies': [
        'error',
        {
          default: 'disallow',
          policies: [...areaPolicies, ...topPolicies, appPolicy].flatMap(({ from, to }) =>
            to.map((each) => ({
              from: { element: { type: from } },
              allow: { to: { element: { type: each } } },
            })),
          ),
        },
      ],
      '@typescript-eslint/consistent-type-imports': 'error',
      '@typescript-eslint/no-unused-vars': ['error', { argsIgnorePattern: '^_', varsIgnorePattern: '^_' }],
      eqeqeq: 'error',
      'no-console': 'off',
    },
  },
  {
    files: ['web/**/*.vue'],
    rules: {
      'vue/max-attributes-per-line': 'off',
      'vue/singleline-html-element-content-newline': 'off',
      'vue/html-self-closing': 'off',
      'vue/html-closing-bracket-newline': 'off',
      'vue/html-indent': 'off',
      'vue/multiline-html-element-content-newline': 'off',
      'vue/first-attribute-linebreak': 'off',
      'vue/attributes-order': 'off',
      'vue/require-default-prop': 'off',
    },
  },
  {
    files: ['core/src/**/*.ts'],
    ignores: ['core/src/**/*.test.ts', 'core/src/testing.ts'],
    rules: {
      'no-restricted-globals': ['error', 'window', 'document', 'fetch', 'process', 'setTimeout'],
      'no-restricted-properties': [
        'error',
        { object: 'Math', property: 'random', message: 'core takes a seeded generator' },
        { object: 'Date', property: 'now', message: 'core has no clock' },
      ],
    },
  },
  ...fences,
);
