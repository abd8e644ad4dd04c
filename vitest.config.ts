import { defineConfig } from 'vitest/config';

export default defineConfig({
  test: {
    projects: [
      { test: { name: 'unit', include: ['{core,contract,demo,packs,tools,web}/**/*.test.ts'], exclude: ['**/node_modules/**', '**/dist/**'], testTimeout: 60_000 } },
      {
        test: {
          name: 'server',
          globalSetup: ['tools/bundle-server.mjs'],
          include: ['server/**/*.test.ts'],
          exclude: ['**/node_modules/**'],
          testTimeout: 60_000,
          hookTimeout: 60_000,
        },
      },
      { test: { name: 'browser', include: ['e2e/**/*.test.ts'], exclude: ['**/node_modules/**'], testTimeout: 240_000, hookTimeout: 240_000, fileParallelism: false } },
    ],
  },
});
