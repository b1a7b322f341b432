import node from '@astrojs/node';
import react from '@astrojs/react';
import tailwindcss from '@tailwindcss/vite';
import { defineConfig } from 'astro/config';
import { build } from 'esbuild';

/** The threads that read records and mails are a program of their own, built beside the pages. */
const threads = {
  name: 'threads',
  hooks: { 'astro:build:done': () => build({ entryPoints: ['src/server/work/worker.ts'], outfile: 'dist/server/work.mjs', bundle: true, platform: 'node', format: 'esm', packages: 'external', logLevel: 'error' }) },
};

export default defineConfig({
  output: 'server',
  adapter: node({ mode: 'standalone' }),
  integrations: [react(), threads],
  server: { port: Number(process.env.PORT ?? 4324), host: '127.0.0.1' },
  // the endpoints check the origin themselves, against the host name that was asked for (src/server/web/requests.ts)
  security: { checkOrigin: false },
  // white space between words and links is kept as it is written
  compressHTML: false,
  devToolbar: { enabled: false },
  // pages name the scripts and styles they may run by their hashes; src/server/web/hosts.ts adds what holds for everything else
  experimental: { csp: true },
  vite: { plugins: [tailwindcss()], ssr: { external: ['better-sqlite3', 'piscina'] } },
});
