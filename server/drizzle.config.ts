import { defineConfig } from 'drizzle-kit';

export default defineConfig({ dialect: 'postgresql', schema: './server/src/house/schema.ts', out: './server/migrations' });
