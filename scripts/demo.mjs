// npm run demo: sets up what is missing, loads the demo, starts the application and the stand-ins for mail, chat and a model server.
import { spawn } from 'node:child_process';
import { createServer } from 'node:net';
import { build, packages, root, run } from './setup.mjs';

const free = (port) =>
  new Promise((done) => {
    const probe = createServer()
      .once('error', () => done(false))
      .once('listening', () => probe.close(() => done(true)))
      .listen(port, '127.0.0.1');
  });
async function port(wanted) {
  for (let p = wanted; p < wanted + 40; p += 1) if (await free(p)) return p;
  return wanted;
}

packages();
build();
const web = await port(Number(process.env.PORT ?? 4324));
const smtp = await port(Number(process.env.OTTIK_SMTP_PORT ?? 4344));
const mailbox = await port(Number(process.env.OTTIK_MAILBOX_PORT ?? 4364));
const answers = await port(Number(process.env.OTTIK_ANSWERS_PORT ?? 4384));
const chat = await port(Number(process.env.OTTIK_CHAT_PORT ?? 4404));
const model = await port(Number(process.env.OTTIK_MODEL_PORT ?? 4424));
const env = {
  ...process.env,
  PORT: String(web),
  HOST: '127.0.0.1',
  OTTIK_SMTP_PORT: String(smtp),
  OTTIK_MAILBOX_PORT: String(mailbox),
  OTTIK_ANSWERS_PORT: String(answers),
  OTTIK_CHAT_PORT: String(chat),
  OTTIK_MODEL_PORT: String(model),
  OTTIK_ANSWERS: process.env.OTTIK_ANSWERS ?? 'answers@ottik.example',
  OTTIK_DEMO: '1',
  NODE_ENV: 'production',
};
Object.assign(process.env, env);
run('npx', ['tsx', 'demo/main.ts', ...process.argv.slice(2).filter((a) => a === '--fresh')]);
const start = (...args) => spawn(process.execPath, args, { cwd: root, env, stdio: ['ignore', 'ignore', 'inherit'] });
const children = [start('dist/server/entry.mjs'), start('--import', 'tsx', 'standins/mail/main.ts'), start('--import', 'tsx', 'standins/chat/main.ts'), start('--import', 'tsx', 'demo/model.ts')];
const stop = () => {
  for (const c of children) c.kill();
  process.exit(0);
};
process.on('SIGINT', stop);
process.on('SIGTERM', stop);
for (const c of children) {
  c.on('exit', (code) => {
    if (code) {
      console.error('A part of Ottik stopped; see above.');
      stop();
    }
  });
}
for (let i = 0; i < 100; i += 1) {
  const up = await fetch(`http://127.0.0.1:${web}/`).then(
    (r) => r.ok,
    () => false,
  );
  if (up) break;
  await new Promise((r) => setTimeout(r, 150));
}
console.log(`
  Ottik                 http://localhost:${web}/
  mailboxes (stand-in)  http://localhost:${mailbox}/
  chat (stand-in)       http://localhost:${chat}/
  model (stand-in)      http://localhost:${model}/

  Stop with Ctrl+C. What you do is kept; npm run demo -- --fresh starts over.
`);
