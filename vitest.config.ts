import vue from '@vitejs/plugin-vue';
import { defineConfig } from 'vitest/config';

/** Tests of the embedded database's own directory; a PostgreSQL server has its own ways. */
const ofPglite = process.env['TEST_DATABASE_URL']
  ? ['server/src/tests/process.test.ts', 'server/src/data/store.test.ts']
  : [];

export default defineConfig({
  test: {
    projects: [
      {
        test: {
          name: 'unit',
          include: ['{core,contract,demo,packs,tools}/**/*.test.ts'],
          exclude: ['**/node_modules/**', '**/dist/**'],
          testTimeout: 180_000,
        },
      },
      {
        plugins: [vue({ template: { compilerOptions: { whitespace: 'preserve' } } })],
        test: {
          name: 'web',
          // What is loaded is shared between files; the setup clears what a test leaves in the page.
          isolate: false,
          include: ['web/**/*.test.ts'],
          exclude: ['**/node_modules/**', '**/dist/**'],
          environment: 'happy-dom',
          setupFiles: ['web/src/testing/setup.ts'],
          testTimeout: 180_000,
        },
      },
      {
        test: {
          name: 'server',
          globalSetup: ['tools/bundle-server.mjs'],
          include: ['server/**/*.test.ts'],
          exclude: ['**/node_modules/**', ...ofPglite],
          testTimeout: 180_000,
          hookTimeout: 180_000,
        },
      },
      {
        test: {
          name: 'browser',
          globalSetup: ['tools/demoServer.ts'],
          include: ['e2e/**/*.test.ts'],
          exclude: ['**/node_modules/**'],
          testTimeout: 240_000,
          hookTimeout: 240_000,
        },
      },
    ],
  },
});
