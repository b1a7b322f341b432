import { afterAll, beforeAll, describe, expect, it } from 'vitest';
import { ledgerRows } from '../../../src/server/ledger/commitments.ts';
import { receiveMail } from '../../../src/server/letters/inbound.ts';
import type { Message } from '../../../src/server/letters/mailer.ts';
import { mustBeFirstOfTheDay } from '../../../src/server/letters/one-a-day.ts';
import { composeAnew } from '../../../src/server/letters/plan.ts';
import { type Carriers, sendLetter } from '../../../src/server/letters/queue.ts';
import { repliesOf, takeAnswer } from '../../../src/server/letters/replies.ts';
import { correctAddress, settleStray, straysOf } from '../../../src/server/letters/strays.ts';
import { beginWritingBack, writeBack } from '../../../src/server/letters/write-back.ts';
import type { Workspace } from '../../../src/server/people/workspace.ts';
import { demoWorld, TODAY } from '../world.ts';

const P = 'quiet-crossing';
let ws: Workspace;
let n = 0;
const mail = (headers: string, text: string) => Buffer.from(`Message-ID: <m${++n}@x.example>\r\n${headers}\r\n\r\n${text.replace(/\n/g, '\r\n')}\r\n`);
const receive = (headers: string, text: string, from = 'x@y.example') => receiveMail(ws.db, mail(headers, text), { to: ['answers@ottik.example'], from }, TODAY);

beforeAll(async () => {
  ws = await demoWorld();
});
afterAll(() => ws.db.destroy());

/** A letter that went to Bram, as it stands in the database. */
const sent = () => ws.db.selectFrom('letter_recipients as r').innerJoin('letters as l', 'l.id', 'r.letter_id').selectAll('r').where('r.sent_at', 'is not', null).where('l.project_id', '=', P).where('l.kind', '!=', 'round-up').where('r.token', 'is not', null).executeTakeFirstOrThrow();

describe('mail that belongs to no letter', () => {
  it('from a stranger belongs to no project, is shown by its address, and is settled by saying what it is about', async () => {
    const [before, others] = [await repliesOf(ws, P), await straysOf(ws, P)];
    await receive('From: "Somebody Else" <else@far.example>\r\nSubject: The hoist', 'The certificate is done.');
    expect(await repliesOf(ws, P)).toHaveLength(before.length);
    const strays = await straysOf(ws, P);
    expect(strays).toHaveLength(others.length + 1);
    expect(strays[0]).toMatchObject({ person: null, from: 'Somebody Else <else@far.example>', nature: 'unmatched' });
    const [open] = await ledgerRows(ws, { project: P });
    const settled = await settleStray(ws, P, strays[0]!.id, { do: 'about', refs: [open!.ref] });
    // a hand said what it is about; what it says is still to be looked at, and it is nobody's of the project
    expect(settled).toMatchObject({ nature: 'answer', person: null, verified: false, answers: [{ ref: open!.ref, kind: 'done', sure: false, verdict: 'open' }] });
    await takeAnswer(ws, settled.answers[0]!.id, {});
    expect((await ledgerRows(ws, { project: P, state: 'all', ids: [open!.id] }))[0]!.state).toBe('done');
    await expect(settleStray(ws, P, settled.id, { do: 'put away' })).rejects.toThrow('settled already');
  });
  it('from somebody who is known is shown in the project whose letters they get', async () => {
    const { mail: address, person_id } = await sent();
    await receive(`From: <${address}>\r\nSubject: Something else`, 'Are we still on for Monday?');
    expect((await repliesOf(ws, P))[0]).toMatchObject({ person: person_id, nature: 'unmatched', subject: 'Something else' });
  });
  it('is put away and brought back', async () => {
    await receive('From: <ads@far.example>\r\nSubject: Offers', 'Buy ropes.');
    const [stray] = await straysOf(ws, P);
    expect(await settleStray(ws, P, stray!.id, { do: 'put away' })).toMatchObject({ nature: 'put away' });
    expect(await settleStray(ws, P, stray!.id, { do: 'bring back' })).toMatchObject({ nature: 'unmatched' });
    await expect(settleStray(ws, P, stray!.id, { do: 'about', refs: ['C-99999'] })).rejects.toThrow('There is no C-99999');
  });
});

describe('whoever answers through somebody’s thread', () => {
  it('is shown as the address they wrote from, not as that person', async () => {
    const r = await sent();
    await receive(`From: "Other Hand" <other@far.example>\r\nTo: answers+${r.token}@ottik.example\r\nSubject: Re: it`, '1 done');
    expect((await repliesOf(ws, P))[0]).toMatchObject({ person: null, from: 'Other Hand <other@far.example>', verified: false });
  });
  it('with the empty sender of a mail server is no answer, whatever it quotes', async () => {
    const r = await sent();
    await receive(`From: <>\r\nTo: answers+${r.token}@ottik.example\r\nSubject: Your message`, `Delivery to the following recipient failed permanently:\n\n${r.mail}\n\n550 5.1.1 user unknown\n\n1 done`, '');
    expect((await repliesOf(ws, P))[0]).toMatchObject({ nature: 'bounce', note: 'the address does not exist', answers: [] });
  });
});

it('a bounced address is corrected where the bounce is shown, and the letter goes again to the new one', async () => {
  const [bounce] = await repliesOf(ws, P);
  await expect(correctAddress(ws, P, bounce!.id, 'ines.falk@marrowsound.example')).rejects.toThrow(/already|failed/);
  const { letter } = await correctAddress(ws, P, bounce!.id, 'new.address@far.example');
  expect(await ws.db.selectFrom('letter_recipients').select(['mail', 'state', 'error']).where('letter_id', '=', letter).executeTakeFirstOrThrow()).toEqual({ mail: 'new.address@far.example', state: 'waiting', error: null });
  expect((await repliesOf(ws, P, { id: bounce!.id }))[0]!.note).toBe('corrected to new.address@far.example');
});

it('counts from the day its writer sent it on', async () => {
  const r = await sent();
  // 22:30 on Thursday where it was written is Friday in UTC
  await receive(`From: <${r.mail}>\r\nTo: answers+${r.token}@ottik.example\r\nDate: Wed, 4 Mar 2026 22:30:00 -0500\r\nSubject: Re: it`, '1 tomorrow');
  expect((await repliesOf(ws, P))[0]!.answers[0]).toMatchObject({ kind: 'moved', due: '2026-03-05' });
});

describe('writing back', () => {
  const carriers = (out: Message[]): Carriers => ({ mail: { send: async (m: Message) => void out.push(m), verify: async () => {} } as never, chat: { post: async () => {} } as never });
  it('to a question: the letter goes into the thread, and question and answer stand on the trail', async () => {
    const r = await sent();
    const item = await ws.db.selectFrom('letter_items').selectAll().where('letter_id', '=', r.letter_id).where('n', 'is not', null).executeTakeFirstOrThrow();
    await receive(`From: <${r.mail}>\r\nTo: answers+${r.token}@ottik.example\r\nSubject: Re: it`, `${item.n}: which of the two hoists do you mean?`);
    const [reply] = await repliesOf(ws, P);
    expect(reply!.answers[0]).toMatchObject({ kind: 'question', commitment: item.commitment_id, verdict: 'open' });
    expect((await beginWritingBack(ws, P, reply!.id)).text).toMatch(/^(?:Dear|Hello) \p{L}+,\n\n\n\n\p{L}/u);
    const out: Message[] = [];
    const letter = await writeBack(ws, P, reply!.id, 'Dear reader,\n\nThe one at the north pier. {{ not.a.template }}\n\nTamsin');
    const gone = await sendLetter(ws, letter.id, carriers(out));
    expect(gone).toMatchObject({ kind: 'answer', state: 'sent', subject: 'Re: it' });
    expect(out[0]).toMatchObject({ to: { address: r.mail }, references: [r.message_id, `<m${n}@x.example>`], text: expect.stringContaining('{{ not.a.template }}') });
    const [after] = await repliesOf(ws, P, { id: reply!.id });
    expect(after).toMatchObject({ answers: [{ verdict: 'taken' }], answeredBy: [{ letter: letter.id, on: new Date().toISOString().slice(0, 10) }] });
    const trail = await ws.db.selectFrom('events').select(['kind', 'data']).where('commitment_id', '=', item.commitment_id!).orderBy('id', 'desc').limit(2).execute();
    expect(trail.map((e) => [e.kind, JSON.parse(e.data).reason])).toEqual([
      ['written', expect.stringContaining('The one at the north pier.')],
      ['answered', expect.stringContaining('which of the two hoists')],
    ]);
    // it does not count as the one letter a day, and is not worded anew
    await expect(mustBeFirstOfTheDay(ws.db, P, [r.person_id!], new Date().toISOString().slice(0, 10), null)).resolves.toBeUndefined();
    await expect(composeAnew(ws, letter.id, {})).rejects.toThrow(/gone out|by hand/);
  });
  it('to a stranger goes to their address, and makes their mail the project’s', async () => {
    await receive('From: "New Bidder" <bid@far.example>\r\nSubject: RE: Tender', 'May we still send an offer?');
    const [stray] = await straysOf(ws, P);
    const out: Message[] = [];
    const letter = await writeBack(ws, P, stray!.id, 'Until Friday, yes.');
    await sendLetter(ws, letter.id, carriers(out));
    expect(out[0]).toMatchObject({ to: { address: 'bid@far.example' }, subject: 'Re: Tender', references: [`<m${n}@x.example>`] });
    expect((await straysOf(ws, P)).map((s) => s.id)).not.toContain(stray!.id);
    expect((await repliesOf(ws, P, { id: stray!.id }))[0]).toMatchObject({ nature: 'answer', person: null });
  });
  it('to a program is refused', async () => {
    const bounce = (await repliesOf(ws, P)).find((r) => r.nature === 'bounce')!;
    await expect(writeBack(ws, P, bounce.id, 'Hello?')).rejects.toThrow('A program wrote this');
  });
});
