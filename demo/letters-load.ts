import nodemailer from 'nodemailer';
import { addDays, weekday } from '../src/core/dates/calendar.ts';
import type { PlannedLetter } from '../src/core/letters/plan.ts';
import { changeCommitment } from '../src/server/ledger/changes.ts';
import { tell } from '../src/server/letters/answer-page.ts';
import { receiveMail } from '../src/server/letters/inbound.ts';
import type { Letter } from '../src/server/letters/letters.ts';
import { answerPath } from '../src/server/letters/links.ts';
import { writeLetter } from '../src/server/letters/plan.ts';
import { type Carriers, sendLetter } from '../src/server/letters/queue.ts';
import { repliesOf, takeAnswer } from '../src/server/letters/replies.ts';
import type { Workspace } from '../src/server/people/workspace.ts';
import type { Db } from '../src/server/store/database.ts';
import { type DemoLetter, LETTERS } from './letters.ts';

interface World {
  ws: Workspace;
  keys: ReadonlyMap<string, { commitment: number }>;
  /** the demo's last working day */
  last: string;
  carriers: Carriers | null;
}

const done = new WeakMap<Db, Set<DemoLetter | NonNullable<DemoLetter['reply']>>>();

/** Sends the demo's letters and takes in what came back, up to and without the day `ago` days back, each on its day. */
export async function lettersUpTo(world: World, ago: number): Promise<void> {
  const seen = done.get(world.ws.db) ?? new Set();
  done.set(world.ws.db, seen);
  const due = LETTERS.flatMap((l) => [{ at: l.ago, what: l as DemoLetter | NonNullable<DemoLetter['reply']>, l }, ...(l.reply ? [{ at: l.reply.ago, what: l.reply as DemoLetter | NonNullable<DemoLetter['reply']>, l }] : [])])
    .filter((d) => d.at > ago && !seen.has(d.what) && d.l.about.every((k) => world.keys.has(k)))
    .sort((a, b) => b.at - a.at);
  for (const d of due) {
    seen.add(d.what);
    if (d.what === d.l) await send(world, d.l);
    else await answer(world, d.l, d.l.reply!);
  }
}

const sentLetters = new WeakMap<DemoLetter, Map<Db, Letter>>();

const workingDay = (last: string, ago: number) => {
  const day = addDays(last, -ago);
  return weekday(day) > 5 ? addDays(day, 5 - weekday(day)) : day;
};

async function send({ ws, keys, last, carriers }: World, l: DemoLetter): Promise<void> {
  const day = workingDay(last, l.ago);
  const there = ws.with({ today: day });
  const parts: PlannedLetter['parts'] = [];
  for (const k of l.about) {
    const id = keys.get(k)!.commitment;
    if (l.kind === 'hand-over') await changeCommitment(there, id, { do: 'hand over', owner: [l.to] });
    const c = await ws.db.selectFrom('commitments').select(['due', 'last_on']).where('id', '=', id).executeTakeFirstOrThrow();
    const key =
      l.kind === 'overdue'
        ? `overdue:${id}:${l.to}:${c.due}::0`
        : l.kind === 'reminder'
          ? `reminder:${id}:${l.to}:${c.due}:2`
          : l.kind === 'check'
            ? `check:${id}:${l.to}:${c.last_on}`
            : l.kind === 'escalation'
              ? `escalation:${id}:${l.to}:${c.due}`
              : l.kind === 'digest'
                ? `digest:${id}:${l.to}:${day}`
                : l.kind === 'hand-over'
                  ? `hand-over:${id}:${l.to}:${day}`
                  : `${l.kind}:${id}:${l.to}`;
    parts.push({ key, kind: l.kind, to: l.to, day, commitment: id, sitting: null, why: '', byItself: false, from: null });
  }
  const letter = await writeLetter(there, ws.project, { to: l.to, kind: l.kind, parts, covers: parts.map((p) => p.key) });
  const moment = new Date(`${day}T08:30:00.000Z`);
  await sendLetter(there, letter.id, carriers ?? { mail: { send: async () => undefined }, chat: { post: async () => undefined } }, () => moment);
  const known = sentLetters.get(l) ?? new Map<Db, Letter>();
  known.set(ws.db, letter);
  sentLetters.set(l, known);
}

const transport = nodemailer.createTransport({ streamTransport: true, buffer: true, newline: 'windows' });

async function answer({ ws, keys, last }: World, l: DemoLetter, reply: NonNullable<DemoLetter['reply']>): Promise<void> {
  const { db, project } = ws;
  const letter = sentLetters.get(l)!.get(db)!;
  const day = workingDay(last, reply.ago);
  /** Puts a reply on its day, and takes what was read from it where Ines did. */
  const settled = async (id: number) => {
    await db
      .updateTable('replies')
      .set({ received_at: `${day}T11:20:00.000Z` })
      .where('id', '=', id)
      .execute();
    if (!reply.taken) return;
    const [kept] = await repliesOf(ws, project, { id });
    for (const a of kept!.answers) await takeAnswer(ws.with({ today: day }), a.id, {});
  };
  const r = await db.selectFrom('letter_recipients').innerJoin('people as p', 'p.id', 'letter_recipients.person_id').select(['letter_recipients.id', 'token', 'message_id', 'letter_recipients.mail', 'p.name']).where('letter_id', '=', letter.id).executeTakeFirstOrThrow();
  if (reply.page) {
    const link = (await answerPath(db, r.id, day)).split('/').pop()!;
    await tell(db, link, { do: 'still on it', commitment: keys.get(l.about[0]!)!.commitment }, day);
    const told = await db.selectFrom('replies').select('id').where('recipient_id', '=', r.id).executeTakeFirstOrThrow();
    return settled(told.id);
  }
  const to = `answers+${r.token}@ottik.example`;
  const quoted = `On ${letter.plannedOn} Ines Falk wrote:\n${letter.body
    .trimEnd()
    .split('\n')
    .map((line) => `> ${line}`)
    .join('\n')}`;
  const base = { to, inReplyTo: r.message_id!, references: r.message_id!, date: new Date(`${day}T11:20:00Z`) };
  const raw =
    reply.nature === 'bounce'
      ? deliveryFailure(r.mail, to, r.message_id!)
      : ((
          await transport.sendMail(
            reply.nature === 'away'
              ? { ...base, from: { name: r.name, address: r.mail }, subject: `Out of office: ${letter.subject}`, text: reply.words, headers: { 'Auto-Submitted': 'auto-replied' } }
              : { ...base, from: { name: r.name, address: r.mail }, subject: `Re: ${letter.subject}`, text: `${reply.words}\n\n${quoted}\n` },
          )
        ).message as Buffer);
  const out = await receiveMail(db, raw, [to], day);
  if (out.what !== 'kept') throw new Error(`the demo’s answer of ${r.name} was not kept`);
  return settled(out.reply);
}

/** A report that a mailbox is full, as a mail server writes it (RFC 3464). */
function deliveryFailure(mail: string, to: string, messageId: string): Buffer {
  const boundary = `=_report_${messageId.replace(/\W/g, '').slice(0, 20)}`;
  return Buffer.from(
    [
      'From: Mail Delivery <postmaster@mail.example>',
      `To: ${to}`,
      'Subject: Undelivered mail returned to sender',
      `Message-ID: <report.${messageId.replace(/[<>]/g, '')}>`,
      'MIME-Version: 1.0',
      'Auto-Submitted: auto-replied',
      `Content-Type: multipart/report; report-type=delivery-status; boundary="${boundary}"`,
      '',
      `--${boundary}`,
      'Content-Type: text/plain',
      '',
      'Your message could not be delivered.',
      `--${boundary}`,
      'Content-Type: message/delivery-status',
      '',
      'Reporting-MTA: dns; mail.example',
      '',
      `Final-Recipient: rfc822; ${mail}`,
      'Action: failed',
      'Status: 5.2.2',
      'Diagnostic-Code: smtp; 552 5.2.2 mailbox full',
      '',
      `--${boundary}--`,
      '',
    ].join('\r\n'),
  );
}
