import { defineConfig } from 'drizzle-kit';

export default defineConfig({
  dialect: 'postgresql',
  schema: [
    './server/src/data/schema.ts',
    './server/src/data/teachingSchema.ts',
    './server/src/data/gradingSchema.ts',
  ],
  out: './server/migrations',
});
