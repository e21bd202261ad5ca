import { defineConfig } from 'drizzle-kit';

export default defineConfig({
  dialect: 'postgresql',
  schema: './src/data/system/schema.ts',
  out: './src/data/system/migrations',
  schemaFilter: ['slate'],
});
