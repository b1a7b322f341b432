import { afterAll, beforeAll, beforeEach, describe, expect, it, vi } from 'vitest';
import { bandOf } from '../../src/core/sift/learned.ts';
import { changeCommitment } from '../../src/server/ledger/changes.ts';
import { checkLedger } from '../../src/server/ledger/check.ts';
import { ledgerRows } from '../../src/server/ledger/commitments.ts';
import { trailOf } from '../../src/server/ledger/trail.ts';
import { closeMeeting, closingOf } from '../../src/server/meetings/closing.ts';
import { siftPage } from '../../src/server/pages/sift.ts';
import type { Workspace } from '../../src/server/people/workspace.ts';
import { KeepDaysSchema, keepRecord, setKeepDays } from '../../src/server/records/bringing-in.ts';
import { previewRecord } from '../../src/server/records/preview.ts';
import { changeKeeping } from '../../src/server/records/retention.ts';
import { changeVoices } from '../../src/server/records/speakers.ts';
import { findsIn, findsOf, type KeptFind, keepFinds } from '../../src/server/sift/finds.ts';
import { markFind, passFind, reopenFind, takeFind } from '../../src/server/sift/judging.ts';
import { forgetLearned, habitsOf } from '../../src/server/sift/learned.ts';
import { stampOf } from '../../src/server/sift/live.ts';
import { judgeFind, reshapeFind } from '../../src/server/sift/reshaping.ts';
import { changesAsTheyCome } from '../../src/server/store/live.ts';
import { recordWords, spokenRecord } from '../../src/server/store/segments.ts';
import { bytes, demoWorld, TODAY } from './world.ts';

let ws: Workspace;
const project = 'quiet-crossing';
const base = { project, fileName: null, meeting: null, series: null, author: null, voices: {} };
const BRAM = { Bram: { person: 'bram', name: null } };
let day = 0;

/** A meeting of its own with one record; records must differ, so each has a line that says which it is. */
async function meet(text: string, more: object = {}): Promise<{ meeting: number; record: number }> {
  const { meeting } = await keepRecord(ws, { ...base, title: `Quay walk ${++day}`, date: '2026-03-04', voices: BRAM, ...more }, bytes(`${text}\nBram: That was walk ${day}.`));
  return { meeting, record: await lastRecord(meeting) };
}
const lastRecord = async (meeting: number) => (await ws.db.selectFrom('records').select('id').where('meeting_id', '=', meeting).orderBy('id', 'desc').executeTakeFirstOrThrow()).id;
const second = async (meeting: number, text: string, more: object = {}) => {
  await keepRecord(ws, { ...base, title: 'x', date: '2026-03-04', meeting, ...more }, bytes(`${text}\nNotes of walk ${day}.`));
  return lastRecord(meeting);
};
const only = (finds: readonly KeptFind[], words: RegExp) => finds.filter((f) => words.test(f.text) || words.test(f.about.join(' ')));

const talk = (thing: string) => `Ines: Morning.\nInes: Bram, can you send the ${thing} to the harbour office by Friday?\nBram: Yes, I will send the ${thing} by Friday.\nInes: Thanks.`;
const TALK = talk('crane papers');

beforeAll(async () => {
  ws = await demoWorld();
});
afterAll(() => ws.db.destroy());

describe('two records of one meeting', () => {
  it('that say the same give one find, with its places in both', async () => {
    const { meeting, record } = await meet(TALK);
    const [action] = only(await findsOf(ws, meeting), /crane papers/i);
    const notes = await second(meeting, '# Notes\n- [ ] Bram: send the crane papers to the harbour office, by Friday\n- The quay was wet.', { fileName: 'notes.md' });
    const all = only(await findsOf(ws, meeting), /crane papers/i);
    expect(all.map((f) => f.id)).toEqual([action!.id]);
    expect(all[0]!.also.map((e) => e.record)).toEqual([notes]);
    const there = only(await findsIn(ws, meeting, notes), /crane papers/i);
    expect(there[0]).toMatchObject({ id: action!.id, record: notes });
    expect(there[0]!.also[0]!.record).toBe(record);

    const taken = await takeFind(ws, action!.id, {});
    const row = (await ledgerRows(ws, { project })).find((r) => r.ref === taken.ref)!;
    const trail = await trailOf(ws, project, Number(row.ref.slice(2)), async (r) => (await recordWords(ws.db, r)).segments);
    expect(new Set(trail.events[0]!.said.map((s) => s.record))).toEqual(new Set([record, notes]));
    expect(only(await findsIn(ws, meeting, notes), /crane papers/i)[0]!.verdict).toBe('taken');
    const back = await reopenFind(ws, action!.id);
    expect(back.verdict).toBe('open');
  });
  it('what the one leaves open the other fills in', async () => {
    const { meeting } = await meet('Ines: Somebody has to order the mooring ropes for the pontoon.\nBram: Yes.\nInes: It has to be done, the mooring ropes.');
    const before = only(await findsOf(ws, meeting), /mooring ropes/i).find((f) => f.kind === 'action');
    await second(meeting, '- [ ] Bram: order the mooring ropes for the pontoon by Friday', { fileName: 'ropes.md' });
    const after = only(await findsOf(ws, meeting), /mooring ropes/i).filter((f) => f.kind === 'action');
    expect(after).toHaveLength(1);
    expect(after[0]).toMatchObject({ owner: ['bram'], due: '2026-03-06' });
    if (before) expect(after[0]!.id).toBe(before.id);
  });
  it('what was taken from the later one is not proposed again when the earlier one is read more closely', async () => {
    const { meeting, record } = await meet('Ines: Those ladders.\nBram: Mm, mine.');
    const notes = await second(meeting, '- [ ] Bram: mend the ladders of the west wall by Friday', { fileName: 'ladders.md' });
    const [noted] = only(await findsIn(ws, meeting, notes), /ladders/i);
    const taken = await takeFind(ws, noted!.id, {});
    const { id: _, also: _also, ...find } = noted!;
    await keepFinds(ws.db, meeting, record, { finds: [{ ...find, key: 'action:0:0', evidence: [{ segment: 0, from: 0, to: 14, role: 'states' }], clues: [] }], reader: 'close' });
    const all = only(await findsOf(ws, meeting), /ladders/i);
    expect(all).toMatchObject([{ id: noted!.id, verdict: 'taken', ref: taken.ref }]);
    expect(all[0]!.also.map((e) => e.record)).toEqual([record]);
    expect(only(await findsIn(ws, meeting, record), /ladders/i)).toMatchObject([{ id: noted!.id, verdict: 'taken' }]);
  });
  it('when the words of one go, the other says it alone', async () => {
    const { meeting, record } = await meet(talk('paint samples'));
    const notes = await second(meeting, '- [ ] Bram: send the paint samples to the harbour office, by Friday', { fileName: 'samples.md' });
    expect(only(await findsOf(ws, meeting), /paint samples/i)[0]!.record).toBe(record);
    await changeKeeping(ws, record, { do: 'now' });
    const left = only(await findsOf(ws, meeting), /paint samples/i).filter((f) => f.verdict === 'open');
    expect(left.map((f) => f.record)).toEqual([notes]);
  });
  it('are joined and parted by hand where the words do not tell', async () => {
    const { meeting, record } = await meet('Bram: Hello.\nInes: The sky is grey.');
    const notes = await second(meeting, 'Grey.\nSky.');
    const a = await markFind(ws, meeting, { record, segment: 0, from: 0, to: 6, kind: 'action', text: 'Paint the shed' });
    const b = await markFind(ws, meeting, { record: notes, segment: 0, from: 0, to: 5, kind: 'action', text: 'Colour for the hut' });
    const { find, other } = await reshapeFind(ws, a.id, { do: 'merge', with: b.id });
    expect(other).toBeNull();
    expect(find.also.map((e) => e.record)).toEqual([notes]);
    const back = await reshapeFind(ws, a.id, { do: 'put back' });
    expect(back.other).toMatchObject({ id: b.id, verdict: 'open' });
  });
});

describe('a better record', () => {
  it('takes the place of another without losing what was taken', async () => {
    const { meeting, record } = await meet(`${talk('tide tables')}\nInes: And we go with the blue ropes, agreed.\nBram: Agreed, the blue ropes.`);
    const finds = await findsOf(ws, meeting);
    const action = only(finds, /tide tables/i).find((f) => f.kind === 'action')!;
    const taken = await takeFind(ws, action.id, {});
    const loose = finds.filter((f) => f.id !== action.id && f.verdict === 'open');
    const better = await second(meeting, `${talk('tide tables').replace('Morning.', 'Good morning to all of you.')}\nInes: And we go with the blue ropes, agreed.\nBram: Agreed, the blue ropes.`, { replaces: record, voices: BRAM });
    const now = await findsOf(ws, meeting);
    for (const f of loose) expect(now.some((x) => x.id === f.id)).toBe(false);
    expect(only(now, /tide tables/i).filter((f) => f.kind === 'action')).toHaveLength(1);
    expect(only(await findsIn(ws, meeting, better), /tide tables/i).find((f) => f.kind === 'action')).toMatchObject({ id: action.id, verdict: 'taken', ref: taken.ref });
    const page = await siftPage(ws.with({ today: TODAY }) as never, meeting);
    expect(page.view!.record.id).toBe(better);
    expect(page.records.find((r) => r.id === record)!.replaced).toBe(true);
    expect((await recordWords(ws.db, record)).segments.length).toBeGreaterThan(3);
  });
  it('is of the same meeting, and each is replaced once', async () => {
    const { meeting, record } = await meet('Bram: Hello.\nInes: Good.');
    const other = await meet('Bram: Hello again.\nInes: Good.');
    await expect(second(meeting, 'Bram: Better.', { replaces: other.record })).rejects.toThrow('not of this meeting');
    expect(await ws.db.selectFrom('records').select('id').where('meeting_id', '=', meeting).execute()).toHaveLength(1);
    await second(meeting, 'Bram: Better.\nInes: Yes.', { replaces: record });
    await expect(second(meeting, 'Bram: Best.\nInes: Yes.', { replaces: record })).rejects.toThrow('replaced already');
  });
});

describe('who speaks', () => {
  const VOICES = 'Speaker 1: Morning.\nSpeaker 2: I will book the diver by Friday.\nSpeaker 1: Thanks.\nSpeaker 2: And I will paint the bollards on Monday.';
  it('is said once, finds follow, and the series remembers it', async () => {
    const { meeting, record } = await meet(VOICES, { series: 'works', voices: {} });
    await changeVoices(ws, record, { do: 'voice', label: 'Speaker 2', person: 'bram' });
    const action = only(await findsOf(ws, meeting), /diver/i).find((f) => f.kind === 'action')!;
    expect(action.owner).toEqual(['bram']);
    const series = (await ws.db.selectFrom('series').select('title').where('id', '=', 'works').executeTakeFirstOrThrow()).title;
    const preview = await previewRecord(ws, project, bytes(`${VOICES}\nSpeaker 3: Late.`), `${series}.txt`);
    expect(preview.voices.find((v) => v.label === 'Speaker 2')!.person).toBe('bram');
    expect(preview.voices.find((v) => v.label === 'Speaker 3')!.person).toBeNull();
  });
  it('a name that two people spoke under is parted by its lines, and two names of one person are joined', async () => {
    const { meeting, record } = await meet(VOICES, { voices: { 'Speaker 2': { person: 'bram', name: null } } });
    await changeVoices(ws, record, { do: 'lines', from: 3, to: null, person: 'ines' });
    const people = [
      { id: 'bram', name: 'Bram Osei' },
      { id: 'ines', name: 'Ines Falk' },
    ];
    expect((await spokenRecord(ws.db, record, people)).segments.slice(0, 4).map((s) => s.voice)).toEqual(['Speaker 1', 'Bram Osei', 'Speaker 1', 'Ines Falk']);
    expect(only(await findsOf(ws, meeting), /bollards/i).find((f) => f.kind === 'action')!.owner).toEqual(['ines']);
    await changeVoices(ws, record, { do: 'voice', label: 'Speaker 1', person: 'ines' });
    expect(new Set((await spokenRecord(ws.db, record, people)).voices)).toEqual(new Set(['Ines Falk', 'Bram Osei', 'Bram']));
  });
  it('is refused where nobody speaks, or for somebody not known here', async () => {
    const { record } = await meet(VOICES, { voices: {} });
    await expect(changeVoices(ws, record, { do: 'voice', label: 'Speaker 9', person: 'bram' })).rejects.toThrow('Speaker 9');
    await expect(changeVoices(ws, record, { do: 'voice', label: 'Speaker 1', person: 'nobody-here' })).rejects.toThrow('Nobody here');
    await expect(changeVoices(ws, record, { do: 'lines', from: 99, to: null, person: 'bram' })).rejects.toThrow('Nobody speaks');
    await expect(changeVoices(ws, record, { do: 'lines', from: 3, to: 1, person: 'bram' })).rejects.toThrow('comes before');
    await expect(changeVoices(ws.with({ asker: { ...ws.asker, projects: new Set() } }), record, { do: 'voice', label: 'Speaker 1', person: 'bram' })).rejects.toThrow('no such record');
  });
});

describe('how long a project keeps its records', () => {
  it('is sixty days until it says otherwise, and holds for what is brought in from then on', async () => {
    const until = async (r: number) => (await ws.db.selectFrom('records').select('keep_until').where('id', '=', r).executeTakeFirstOrThrow()).keep_until;
    const before = await meet('Bram: One.\nInes: Good.');
    expect(await until(before.record)).toBe('2026-05-04');
    expect(await setKeepDays(ws, { project, days: 10 })).toEqual({ days: 10 });
    expect(await until((await meet('Bram: Two.\nInes: Good.')).record)).toBe('2026-03-15');
    expect(await until(before.record)).toBe('2026-05-04');
    expect(await setKeepDays(ws, { project, days: null })).toEqual({ days: 60 });
    await expect(setKeepDays(ws.with({ asker: { ...ws.asker, projects: new Set() } }), { project, days: 5 })).rejects.toThrow('no such project');
    expect(KeepDaysSchema.safeParse({ project, days: 0 }).success).toBe(false);
  });
});

describe('a layout that was said', () => {
  it('is kept with the record and read again the same way', async () => {
    const text = 'MEETING OF THE QUAY\n09:02 | Bram | I will send the crane papers by Friday.\n09:03 | Ines | Good.\n09:04 | Bram | And that is all.';
    const guess = await previewRecord(ws, project, bytes(text), 'a.txt');
    expect(guess.layouts.length).toBeGreaterThan(3);
    const said = await previewRecord(ws, project, bytes(text), 'a.txt', 'TIME | NAME | WORDS');
    expect(said.voices.map((v) => v.label)).toEqual(['Bram', 'Ines']);
    const { meeting } = await keepRecord(ws, { ...base, title: 'Laid out', date: '2026-03-04', voices: BRAM, layout: 'TIME | NAME | WORDS' }, bytes(text));
    const words = await recordWords(ws.db, await lastRecord(meeting));
    expect(words.segments[1]).toMatchObject({ voice: 'Bram', text: 'I will send the crane papers by Friday.' });
    await expect(previewRecord(ws, project, bytes(text), 'a.txt', 'TIME and NAME')).rejects.toThrow('where the words are');
  });
});

describe('two people at one desk', () => {
  it('the second is told what the first did, and nothing is overwritten', async () => {
    const { meeting } = await meet(talk('insurance letter'));
    const f = only(await findsOf(ws, meeting), /insurance letter/i)[0]!;
    const stamp = await stampOf(ws.db, meeting);
    await reshapeFind(ws.with({ asker: { ...ws.asker, person: 'bram' } }), f.id, { do: 'kind', kind: 'question' }, f.seen);
    expect(await stampOf(ws.db, meeting)).not.toBe(stamp);
    const listener = new AbortController();
    const reader = changesAsTheyCome(() => stampOf(ws.db, meeting), listener.signal).getReader();
    const heard = async () => new TextDecoder().decode((await reader.read()).value);
    const first = await heard();
    expect(first).toMatch(/^event: changed\ndata: /);
    await judgeFind(ws, f.id, true);
    const second = await heard();
    expect(second).not.toBe(first);
    listener.abort();
    expect((await reader.read()).done).toBe(true);
    await expect(takeFind(ws, f.id, { seen: f.seen })).rejects.toThrow('Bram Osei has changed this meanwhile');
    await expect(passFind(ws, f.id, f.seen)).rejects.toThrow('meanwhile');
    const now = (await findsOf(ws, meeting)).find((x) => x.id === f.id)!;
    expect(now).toMatchObject({ kind: 'question', verdict: 'open' });
    await passFind(ws.with({ asker: { ...ws.asker, person: 'bram' } }), f.id, now.seen);
    await expect(takeFind(ws, f.id, { seen: now.seen })).rejects.toThrow('Bram Osei has passed this meanwhile');
    expect((await findsOf(ws, meeting)).find((x) => x.id === f.id)!.by).toBe('Bram Osei');
  });
});

describe('what is taken and passed', () => {
  beforeEach(() => forgetLearned(ws, project));
  it('moves the confidence of finds to come, openly, and can be forgotten', async () => {
    const jobs = ['ring the diver about the chain', 'order two drums of paint', 'mend the gangway rail', 'write to the council about the lamps', 'count the life jackets', 'book the tug for the tow', 'copy the keys of the shed', 'measure the gap at the slipway'];
    const { meeting } = await meet(jobs.map((job) => `Bram: I will ${job} by Friday.\nInes: Thanks, Bram.\nInes: Next.`).join('\n'));
    const own = (await findsOf(ws, meeting)).filter((f) => f.kind === 'action');
    expect(own.length).toBeGreaterThanOrEqual(6);
    for (const f of own) await passFind(ws, f.id);
    const learned = (await habitsOf(ws.db, project)).filter((h) => h.trait === 'action');
    expect(learned.reduce((n, h) => n + h.count, 0)).toBe(own.length);
    expect(learned.every((h) => h.right === 0)).toBe(true);
    const next = only(await findsOf(ws, (await meet('Ines: Morning.\nInes: Now.\nBram: I will polish the brass bell by Friday.\nInes: Thanks, Bram.\nInes: Next.')).meeting), /brass bell/i).find((f) => f.kind === 'action')!;
    const habit = learned.find((h) => h.band === bandOf(next.unadjusted ?? next.confidence))!;
    expect(habit.shift).toBeLessThan(0);
    expect(next.confidence).toBeLessThan(next.unadjusted!);
    // told that they were right after all, the same finds teach the opposite
    for (const f of own) await judgeFind(ws, f.id, true);
    expect((await habitsOf(ws.db, project)).find((h) => h.trait === 'action' && h.band === habit.band)!.shift).toBeGreaterThan(0);
    await judgeFind(ws, own[0]!.id, null);
    expect((await findsOf(ws, meeting)).find((f) => f.id === own[0]!.id)!.right).toBeNull();
    await forgetLearned(ws, project);
    expect(await habitsOf(ws.db, project)).toEqual([]);
    // what is called wrong counts at once, though nobody has settled it
    await judgeFind(ws, next.id, false);
    expect((await habitsOf(ws.db, project)).find((h) => h.trait === 'action')).toMatchObject({ count: 1, right: 0 });
  });
  it('tells before from after a forgetting though all of it happens in one millisecond', async () => {
    vi.useFakeTimers({ toFake: ['Date'], now: new Date('2026-04-02T09:00:00Z') });
    try {
      const { meeting } = await meet('Ines: Morning.\nInes: Now.\nBram: I will oil the winch by Friday.\nInes: Thanks, Bram.\nInes: Next.');
      const find = only(await findsOf(ws, meeting), /winch/i).find((f) => f.kind === 'action')!;
      const counted = async () => (await habitsOf(ws.db, project)).find((h) => h.trait === 'action')?.count ?? 0;
      const stamps = [await stampOf(ws.db, meeting)];
      for (const right of [true, false, null, true]) {
        await judgeFind(ws, find.id, right);
        stamps.push(await stampOf(ws.db, meeting));
      }
      for (const [i, stamp] of stamps.slice(1).entries()) expect(stamp).not.toBe(stamps[i]);
      expect(await counted()).toBe(1);
      await forgetLearned(ws, project);
      expect(await counted()).toBe(0);
      await judgeFind(ws, find.id, false);
      expect(await counted()).toBe(1);
      await forgetLearned(ws, project);
      await passFind(ws, find.id);
      expect(await counted()).toBe(1);
    } finally {
      vi.useRealTimers();
    }
  });
});

describe('closing a meeting', () => {
  it('asks for what is left and loose, and takes a plain “no date”', async () => {
    const { meeting, record } = await meet('Bram: Hello.\nInes: Good.');
    for (const f of await findsOf(ws, meeting)) await passFind(ws, f.id);
    const find = await markFind(ws, meeting, { record, segment: 0, from: 0, to: 4, kind: 'action', text: 'Paint the shed' });
    await expect(closeMeeting(ws, meeting, { do: 'close' })).rejects.toThrow('1 find is left');
    const taken = await takeFind(ws, find.id, { owner: ['bram'], due: null });
    await expect(closeMeeting(ws, meeting, { do: 'close' })).rejects.toThrow(`${taken.ref} lacks`);
    const { loose } = await closingOf(ws, meeting);
    expect(loose.map((r) => r.ref)).toEqual([taken.ref]);
    await changeCommitment(ws, loose[0]!.id, { do: 'no date' });
    expect((await closeMeeting(ws, meeting, { do: 'close' })).closedAt).not.toBeNull();
    // a date that is taken away later makes it loose again
    await changeCommitment(ws, loose[0]!.id, { do: 'move', due: '2026-03-09' });
    await expect(changeCommitment(ws, loose[0]!.id, { do: 'no date' })).rejects.toThrow('has a date');
    await changeCommitment(ws, loose[0]!.id, { do: 'move', due: null });
    expect((await closingOf(ws, meeting)).loose).toHaveLength(1);
    expect((await closeMeeting(ws, meeting, { do: 'open again' })).closedAt).toBeNull();
    expect((await checkLedger(ws.db)).differences).toEqual([]);
  });
});
