// npm start: sets up what is missing and serves Ottik on a database of its own. Nothing is loaded, and no stand-in is started.
import { spawn } from 'node:child_process';
import { build, packages, root } from './setup.mjs';

packages();
build();
const env = { ...process.env, PORT: process.env.PORT ?? '4324', HOST: process.env.HOST ?? '127.0.0.1', OTTIK_DB: process.env.OTTIK_DB ?? 'data/own.db', NODE_ENV: 'production' };
const server = spawn(process.execPath, ['dist/server/entry.mjs'], { cwd: root, env, stdio: ['ignore', 'ignore', 'inherit'] });
const stop = () => server.kill();
process.on('SIGINT', stop);
process.on('SIGTERM', stop);
server.on('exit', (code) => process.exit(code ?? 0));
const url = `http://${env.HOST === '127.0.0.1' ? 'localhost' : env.HOST}:${env.PORT}/`;
for (let i = 0; i < 200; i += 1) {
  const up = await fetch(url).then(
    (r) => r.status < 500,
    () => false,
  );
  if (up) {
    console.log(`\n  Ottik     ${url}\n  database  ${env.OTTIK_DB}\n\n  Stop with Ctrl+C. What you do is kept.\n`);
    break;
  }
  await new Promise((r) => setTimeout(r, 150));
}
