import boundaries from 'eslint-plugin-boundaries';
import vue from 'eslint-plugin-vue';
import tseslint from 'typescript-eslint';

/** Imports run one way: core <- contract <- server and web; demo over core; e2e and tools may use everything. */
const elements = ['core', 'contract', 'server', 'web', 'demo', 'e2e', 'tools'].map((type) => ({
  type,
  pattern: type,
}));
const allowed = {
  core: ['core'],
  contract: ['core', 'contract'],
  server: ['core', 'contract', 'server', 'demo', 'tools'],
  web: ['core', 'contract', 'web'],
  demo: ['core', 'demo'],
  tools: ['core', 'contract', 'server', 'demo', 'tools'],
  e2e: ['core', 'contract', 'server', 'demo', 'tools', 'e2e'],
};
const packages = {
  core: ['@rounds/core'],
  contract: ['@rounds/contract', '@rounds/contract/openapi'],
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
          policies: Object.entries(allowed).map(([from, to]) => ({
            from: { element: { type: from } },
            allow: { to: { element: { type: to } } },
          })),
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
