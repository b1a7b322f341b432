import { readFileSync } from 'node:fs';
import nodemailer from 'nodemailer';
import { hostileMails, hostileRecords } from './hostile.ts';
import { withServer } from './serving.ts';

type Row = [string, string, string, string];
const seconds = (ms: number) => `${(ms / 1000).toFixed(ms < 10_000 ? 2 : 1)} s`;
const SIZE = 100_000;
const PROJECT = 'quiet-crossing';

async function timed(run: () => Promise<unknown>): Promise<number> {
  const at = performance.now();
  await run();
  return performance.now() - at;
}

const asForm = (bytes: Uint8Array, name: string, fields: Record<string, string>) => {
  const form = new FormData();
  form.set('file', new Blob([new Uint8Array(bytes)]), name);
  form.set('name', name);
  for (const [k, v] of Object.entries(fields)) form.set(k, v);
  return form;
};

/** Most memory a process and its threads held so far, in MB, by Linux's own account; null elsewhere. */
function highest(pid: number): number | null {
  try {
    return Math.round(Number(/VmHWM:\s+(\d+)/.exec(readFileSync(`/proc/${pid}/status`, 'utf8'))?.[1]) / 1024);
  } catch {
    return null;
  }
}

/** How long pages are waited for while something goes on: the slowest, and the 95th percentile. */
async function waitedFor(url: string, readers: number, meanwhile: () => Promise<unknown>): Promise<{ slowest: number; p95: number; all: number }> {
  let over = false;
  const times: number[] = [];
  const reader = async (_: unknown, i: number) => {
    // readers do not come in the same millisecond
    await new Promise((go) => setTimeout(go, (i * 1000) / readers));
    while (!over) {
      times.push(await timed(() => fetch(url).then((r) => r.text())));
      await new Promise((go) => setTimeout(go, 100));
    }
  };
  const reading = Promise.all(Array.from({ length: readers }, reader));
  await meanwhile();
  over = true;
  await reading;
  times.sort((a, b) => a - b);
  return { slowest: times.at(-1)!, p95: times[Math.floor(times.length * 0.95)]!, all: times.length };
}

/** A record of an hour's talk. */
const hour = () =>
  Array.from(
    { length: 900 },
    (_, i) =>
      `[${String(Math.floor(i / 900))}:${String(Math.floor((i * 4) / 60) % 60).padStart(2, '0')}:${String((i * 4) % 60).padStart(2, '0')}] ${['Ines Falk', 'Bram Osei', 'Ruth Adair'][i % 3]}: ${i % 9 ? 'The tide table is the same as in any other week, and nobody has moved the crane.' : `I will send list ${i} to Ruth by Friday.`}`,
  ).join('\n');

/** Hostile records and mails sent to the running application, one after the other, and what everybody else waited meanwhile. */
export async function underAttack(): Promise<Row[]> {
  return withServer(async (url, _file, _started, pid, answersPort) => {
    let slowest = { name: '', ms: 0 };
    const mailer = nodemailer.createTransport({ host: '127.0.0.1', port: answersPort, ignoreTLS: true, pool: true });
    const send = async () => {
      for (const h of [...hostileRecords(SIZE), ...hostileMails(SIZE)]) {
        const ms = await timed(() => (h.mail ? mailer.sendMail({ envelope: { from: 'b@x.example', to: 'answers@ottik.example' }, raw: h.bytes }).catch(() => undefined) : fetch(`${url}/api/records/preview`, { method: 'POST', body: asForm(h.bytes, h.file, { project: PROJECT }) }).then((r) => r.text())));
        if (ms > slowest.ms) slowest = { name: h.name, ms };
      }
    };
    // what goes on beside the pages begins with the first of them
    await new Promise((go) => setTimeout(go, 1500));
    const attacked = await waitedFor(`${url}/people`, 1, send);
    mailer.close();
    const calm = await waitedFor(`${url}/people`, 1, () => new Promise((go) => setTimeout(go, 3000)));
    // the first pages of a fresh process are slow of themselves, whatever goes on beside them
    await waitedFor(`${url}/ledger`, 10, () => new Promise((go) => setTimeout(go, 4000)));
    const quiet = await waitedFor(`${url}/ledger`, 50, () => new Promise((go) => setTimeout(go, 4000)));
    const keep = JSON.stringify({ project: PROJECT, meeting: null, series: null, title: 'An hour', date: '2026-03-05', author: null, voices: {} });
    const busy = await waitedFor(`${url}/ledger`, 50, () => fetch(`${url}/api/records`, { method: 'POST', body: asForm(Buffer.from(hour()), 'hour.txt', { keep }) }).then((r) => r.text()));
    return [
      [`Slowest of ${hostileRecords(1).length + hostileMails(1).length} hostile inputs of ${SIZE / 1000} kB: ${slowest.name.slice(0, 40)}`, seconds(slowest.ms), '', ''],
      ['Slowest page meanwhile', seconds(attacked.slowest), `in calm ${seconds(calm.slowest)}`, (attacked.slowest / calm.slowest).toFixed(1)],
      ['Memory at its highest', `${highest(pid) ?? '?'} MB`, '', ''],
      ["50 readers of the Ledger while an hour's record comes in, 95th percentile", seconds(busy.p95), `without it ${seconds(quiet.p95)}`, (busy.p95 / quiet.p95).toFixed(1)],
    ];
  });
}
