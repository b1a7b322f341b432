import { afterAll, beforeAll, describe, expect, it } from 'vitest';
import type { Asked } from '../../../src/core/ask/question.ts';
import { ask } from '../../../src/server/find/ask.ts';
import { dossier, dossierFile } from '../../../src/server/find/dossier.ts';
import { inSight } from '../../../src/server/people/out-of-sight.ts';
import { type Workspace, workspaceOf } from '../../../src/server/people/workspace.ts';
import { demoWorld, TODAY } from '../world.ts';

let ws: Workspace;
beforeAll(async () => {
  ws = await demoWorld();
});
afterAll(() => ws.db.destroy());

/** A question, how it is read, what the answer says, and the words it has to show; null where nothing is on record. */
type Row = [question: string, asks: Asked, says: RegExp | null, shows?: RegExp];

const FIFTY: readonly Row[] = [
  ['what was decided about the fire damper?', 'decided', /Thu 12 Feb: Fire damper at frame 14, on both sides/, /Fire damper goes in at frame 14/],
  ['What did we decide about training?', 'decided', /No weekend training/, /No weekend training, then/],
  ['which decisions were made about the plugs?', 'decided', /Both plugs stay at Kelda/],
  ['did we agree on four crews?', 'decided', /Four crews, not five/, /decided since this morning/],
  ['what was decided last week?', 'decided', /90 gram paper.*\n.*second set of cells.*\n.*Both plugs/s],
  ['when was the number of crews decided?', 'decided', /Thu 5 Feb: Four crews/],
  ['who owns the berth plan?', 'owner', /^Sam Okafor holds C-9.*6 days late/, /Give me two weeks/],
  ['who is responsible for the cable-tray drawings?', 'owner', /^Yusuf Aydin holds C-4/],
  ['whose job is the inclining test?', 'owner', /^Ruth Adair holds C-21/],
  ['who is doing the cost to finish?', 'owner', /You hold C-12.*\n.*Petra Nyman holds C-6/s],
  ['who holds the second welder?', 'owner', /^Nobody holds C-22/, /We need a second welder/],
  ['who was doing the weights?', 'owner', /^Bram Osei held C-1.*it was done on Thu 26 Feb/],
  ['what did Dele promise about the plinth, and did he do it?', 'promised', /promised for Fri 13 Feb,\nthen for Sat 28 Feb,\nthen for Fri 6 Mar\.\nIt is open, due Fri 6 Mar, tomorrow\.\nA newer record says more/, /so you have the plinth by the thirteenth/],
  ['what did Ruth promise?', 'promised', /took on 3 commitments: 0 done, 3 open/],
  ['what has Wim promised about the shed?', 'promised', /C-5.*promised for Fri 30 Jan\. It was done on Thu 5 Feb, after its date/],
  ['has Bram kept his promises?', 'promised', /took on 4 commitments: 2 done, 2 open/],
  ['what does Tove owe me?', 'promised', /C-17.*It is open, due Tue 3 Mar, 2 days late/s],
  ['what do I owe Hanne?', 'owed', /C-20, Ask Hanne for a second training week/],
  ['did I really promise to ask Petra for the cost?', 'whether', /^Yes: you took on C-12/, /I'll ask Petra/],
  ['did Ruth promise the fire plan?', 'whether', /^Yes: Ruth Adair took on C-13/],
  ['did Wim promise the plinth?', 'whether', /^Dele Marchetti took that on: C-2.*\nNothing on record says that Wim Daal promised the plinth/s],
  ['when did we last speak about the welder?', 'spoken', /^Last on Thu 5 Mar, today, in Weekly works call no\. 6.*\nIn 2 meetings/s],
  ['how long did we talk about the permit?', 'spoken', /In 3 meetings altogether/],
  ['in which meetings did we discuss the switchboard?', 'spoken', /Weekly works call no\. 4.*\n.*\nThu 5 Feb, Weekly works call no\. 2/s],
  ['what is open with Bram?', 'open', /C-16.*\nC-25/s],
  ['what is still open on the diesel?', 'open', /C-16.*\nOpen question: Who pays the second week/s],
  ['what is unresolved?', 'unresolved', /Questions without an answer: 6\n.*Waiting: 2\n.*Loose: 1\nC-22/s],
  ['which questions are open?', 'questions', /Does the insurance cover the cells/],
  ['what is undecided about the insurance?', 'unresolved', /^Questions without an answer: 1\nFri 27 Feb: Does the insurance/],
  ['what changed since Monday?', 'changed', /^Taken on: 2\n.*Done: 1\nC-15.*Decided: 1\nThe diesel is lifted/s],
  ['what did each of them say about the dampers?', 'each', /^You, 3 times.*\nBram Osei.*\nJonas Pike/s, /eleven hundred/],
  ['what did Petra say about the insurance?', 'each', /^In the words of others, with Petra Nyman named/, /Petra wasn't sure either/],
  ['pros and cons of weekend training', 'sides', /^It was decided on Thu 19 Feb: No weekend training/],
  ['where does the timetable stand?', 'state', /^C-7.*is open, due Wed 11 Mar/],
  ['is the hoist certificate done?', 'state', /^C-15.*was done on Wed 4 Mar/, /The hoist certificate came through/],
  ['when is the plinth due?', 'due', /^C-2.*is open, due Fri 6 Mar, tomorrow; promised before for Fri 13 Feb and Sat 28 Feb/],
  ['what is late?', 'late', /^C-3, Permit for the cable trench.*31 days late/],
  ['what is due this week?', 'upcoming', /^C-4.*\nC-6.*C-2 of Tide Tables/s],
  ['can you tell me where the letter to the harbour board stands?', 'state', /^C-23/],
  ['a dossier on Kelda', 'dossier', /places are on record about Kelda/],
  // ten of which nothing is on record
  ['who owns the submarine?', 'owner', null],
  ['what was decided about the helicopter?', 'decided', null],
  ['when did we last talk about the moon?', 'spoken', null],
  ['did Petra promise a pony?', 'whether', null],
  ['what did Kit say about lobsters?', 'each', null],
  ['pros and cons of nuclear propulsion', 'sides', null],
  ['where does the merger stand?', 'state', null],
  ['is the shed heater fixed?', 'state', null],
  ['when is the opera due?', 'due', null],
  ['everything about dinosaurs', 'dossier', null],
];

describe('fifty questions to the demo', () => {
  it.each(FIFTY)('%s', async (question, asks, says, shows) => {
    const asked = await ask(ws, question);
    if (asked === null || asked === 'unread') throw new Error('it is not read as a question');
    expect(asked.question.asks).toBe(asks);
    const { lines, missing, sources } = asked.answer;
    if (says === null) {
      expect(lines).toEqual([]);
      expect(missing).toMatch(/^Nothing |^No |not spoken of/);
      return;
    }
    expect([...lines.map((l) => l.text), ...(missing ? [missing] : [])].join('\n')).toMatch(says);
    if (shows) expect(sources.map((s) => s.words).join('\n')).toMatch(shows);
    // every line rests on something, or counts what stands below it or above
    for (const l of lines) if (!l.head && l.sources.length === 0) expect(l.text).toMatch(/took on \d+ commitments|^It (?:is|was) |^In \d+ meetings|more stand|places are on record/);
    for (const s of sources) {
      expect(s.href).toMatch(/^\//);
      expect(s.words !== '' || s.where === 'entered by hand').toBe(true);
    }
  });
  it('counts fifty, ten of which have no answer', () => {
    expect(FIFTY).toHaveLength(50);
    expect(FIFTY.filter((f) => f[2] === null)).toHaveLength(10);
  });
});

describe('what is no question that Ottik answers', () => {
  it.each(['why is the sky blue?', 'how many angels dance on a pin?', 'should we buy a boat?', 'can Ruth swim?'])('%s is said not to be understood', async (q) => {
    expect(await ask(ws, q)).toBe('unread');
  });
  it.each(['plinth', 'dry corner', 'who:bram weights', 'Dele', '', '   '])('%j is only looked for', async (q) => {
    expect(await ask(ws, q)).toBeNull();
  });
  it('somebody nobody knows is said to be nobody', async () => {
    expect(await ask(ws, 'what did Mallory promise?')).toMatchObject({ answer: { lines: [], missing: 'Nobody called Mallory is known here.' } });
  });
  it('one slip of the hand is put right and told, two are another word', async () => {
    expect(await ask(ws, 'who owns the bertth plan?')).toMatchObject({ meant: [{ typed: 'bertth', taken: 'berth' }], question: { about: 'the berth plan' } });
    expect(await ask(ws, 'how is the weather?')).toMatchObject({ meant: [], answer: { lines: [] } });
  });
});

describe('a dossier', () => {
  it('has all that is on record, the oldest first, and comes in every format', async () => {
    const d = await dossier(ws, 'the plinth');
    expect(d.commitments.map((c) => c.ref)).toEqual(['C-2']);
    const days = d.passages.map((p) => p.on);
    expect(days).toEqual([...days].sort());
    for (const p of d.passages) expect(p.words).toMatch(/plinth/i);
    const md = new TextDecoder().decode((await dossierFile(ws, 'the plinth', 'md')).bytes);
    expect(md).toContain('# Dossier: the plinth');
    expect(md).toContain('Two weeks for it, so you have the plinth by the thirteenth.');
    for (const format of ['html', 'docx', 'pdf'] as const) expect((await dossierFile(ws, 'the plinth', format)).bytes.length).toBeGreaterThan(1000);
  });
  it('of nothing is refused, and so is one without a subject', async () => {
    await expect(dossier(ws, 'dinosaurs')).rejects.toThrow('Nothing is on record about dinosaurs');
    await expect(dossier(ws, ' the ')).rejects.toThrow('needs a subject');
  });
});

describe('who is answered what', () => {
  it('nothing comes from a meeting out of sight', async () => {
    await ws.db.updateTable('meetings').set({ visibility: 'attendees' }).where('title', '=', 'Yard walk with Bram').execute();
    await ws.db.updateTable('people').set({ account: 1 }).where('id', '=', 'hanne').execute();
    await ws.db.updateTable('memberships').set({ sees: 1 }).where('person_id', '=', 'hanne').execute();
    const hanne = (await inSight(await workspaceOf(ws.db, 'hanne', TODAY))).with({ project: ws.project });
    for (const q of ['what did Bram promise about the photographs?', 'what was decided about the diesel?', 'when did we last speak about the engine seat?', 'what changed since Monday?', 'what is open with Bram?']) {
      const asked = await ask(hanne, q);
      expect(JSON.stringify(asked), q).not.toMatch(/corroded|own crane|Yard walk/);
    }
    expect(JSON.stringify(await ask(ws, 'what did Bram promise about the photographs?'))).toMatch(/corroded/);
  });
});
