import { mkdirSync, readdirSync, readFileSync, renameSync, statSync } from 'node:fs';
import { join } from 'node:path';
import { SMTPServer } from 'smtp-server';
import { catchUp, forgetWords, healIndex } from '../find/index.ts';
import { backUpAtNight } from '../ledger/backups.ts';
import { sendAccountLetter } from '../letters/account-letters.ts';
import { theCarriers } from '../letters/carriers.ts';
import { MAIL_LIMIT, receiveMail } from '../letters/inbound.ts';
import { watchMailbox } from '../letters/mailbox.ts';
import { letGoByThemselves } from '../letters/plan.ts';
import { deliverDue, resumeQueue } from '../letters/queue.ts';
import { fillEverySeries } from '../meetings/series.ts';
import { sendAccountLettersBy } from '../people/signing-in.ts';
import { sweepMedia } from '../records/media.ts';
import { expireRecords } from '../records/retention.ts';
import { resumeRuns, beat as routinesBeat } from '../routines/engine.ts';
import { tokenOf } from '../store/addresses.ts';
import { today } from '../store/clock.ts';
import type { Db } from '../store/database.ts';
import { log } from '../store/log.ts';

const EVERY = 10_000;
/** Routines follow what happens more closely, in milliseconds. */
const ROUTINES_EVERY = 3000;
let started = false;

/**
 * Starts what goes on beside the pages: the queue of letters, letters that go by themselves, and the door answers come
 * in by. Started once in a process; what an earlier process left half-way is taken up first.
 */
export function startBackground(db: Db): void {
  if (started || process.env.OTTIK_BACKGROUND === 'off') return;
  started = true;
  sendAccountLettersBy(sendAccountLetter);
  void sweepMedia().catch((error: unknown) => log.warn(error, 'what uploads left behind could not be taken away'));
  void resumeQueue(db).then(() => {
    let beat = 0;
    const tick = async () => {
      if (beat % 6 === 0) void backUpAtNight(db, new Date()).catch((error: unknown) => log.error(error));
      if (beat % 360 === 0) {
        await expireRecords(db, today());
        await fillEverySeries(db, today());
      }
      // once a day, and when it starts: what is wrong with the find index is mended
      if (beat % 8640 === 0) {
        for (const wrong of await healIndex(db)) log.warn(`find index mended: ${wrong}`);
        if (beat > 0) await forgetWords(db);
      }
      await catchUp(db, EVERY / 5);
      if (beat++ % 6 === 0) await letGoByThemselves(db, new Date());
      await deliverDue(db, await theCarriers(db), () => new Date());
      await readFolder(db, process.env.OTTIK_ANSWERS_DIR ?? 'data/answers');
    };
    void resumeRuns(db, new Date()).then(() => over(ROUTINES_EVERY, async () => routinesBeat(db, await theCarriers(db), new Date())));
    void watchMailbox(db, new AbortController().signal).catch((error: unknown) => log.error(error));
    over(EVERY, tick);
  });
  // without an address there is nothing to take in
  if (!process.env.OTTIK_ANSWERS) return;
  const port = Number(process.env.OTTIK_ANSWERS_PORT ?? 4384);
  const door = answersDoor(db);
  door.on('error', (error) => log.warn(error, 'answers by SMTP do not come in'));
  door.listen(port, process.env.OTTIK_ANSWERS_HOST ?? '127.0.0.1');
}

/** Does something over and over, never twice at once; what goes wrong is logged and it goes on. */
function over(milliseconds: number, what: () => Promise<void>): void {
  let busy = false;
  const once = async () => {
    if (busy) return;
    busy = true;
    await what().catch((error: unknown) => log.error(error));
    busy = false;
  };
  setInterval(() => void once(), milliseconds).unref();
  void once();
}

/** An SMTP server for the address answers come to and for nothing else. What cannot be kept now is asked for again. */
export function answersDoor(db: Db): SMTPServer {
  const [box, host] = (process.env.OTTIK_ANSWERS ?? '').toLowerCase().split('@');
  const ours = (address: string) => {
    const [local, domain] = address.toLowerCase().split('@');
    return domain === host && (local === box || (local?.startsWith(`${box}+`) && tokenOf(address) !== null));
  };
  return new SMTPServer({
    authOptional: true,
    disableReverseLookup: true,
    disabledCommands: ['AUTH', 'STARTTLS'],
    size: MAIL_LIMIT,
    banner: 'Ottik takes answers',
    onRcptTo: (to, _session, done) => {
      if (ours(to.address)) return done();
      done(Object.assign(new Error('5.1.1 no such mailbox here'), { responseCode: 550 }));
    },
    onData: (stream, session, done) => {
      const parts: Buffer[] = [];
      stream.on('data', (part: Buffer) => parts.push(part));
      stream.on('error', done);
      stream.on('end', () => {
        if (stream.sizeExceeded) return done(Object.assign(new Error('5.3.4 the message is too large'), { responseCode: 552 }));
        const { mailFrom, rcptTo } = session.envelope;
        receiveMail(db, Buffer.concat(parts), { to: rcptTo.map((r) => r.address), from: mailFrom ? mailFrom.address : '' }).then(
          () => done(),
          (error: unknown) => {
            log.error(error);
            done(Object.assign(new Error('4.3.0 it could not be kept just now'), { responseCode: 451 }));
          },
        );
      });
    },
  });
}

/** Reads `.eml` files laid into a folder; each moves to `read`, or to `refused` when it is no mail. */
export async function readFolder(db: Db, folder: string): Promise<number> {
  let names: string[];
  try {
    names = readdirSync(folder)
      .filter((f) => f.toLowerCase().endsWith('.eml'))
      .sort();
  } catch {
    return 0;
  }
  let n = 0;
  for (const name of names) {
    const path = join(folder, name);
    let to = 'read';
    try {
      if (statSync(path).size > MAIL_LIMIT) to = 'refused';
      else if ((await receiveMail(db, readFileSync(path), [])).what === 'empty') to = 'refused';
      else n++;
    } catch (error) {
      log.warn(error, `${name} could not be read`);
      to = 'refused';
    }
    mkdirSync(join(folder, to), { recursive: true });
    renameSync(path, join(folder, to, name));
  }
  return n;
}
