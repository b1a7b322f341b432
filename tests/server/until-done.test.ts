import ICAL from 'ical.js';
import Papa from 'papaparse';
import { beforeEach, describe, expect, it } from 'vitest';
import { closeOutPage, closeTheDay, firstThing } from '../../src/server/day/close-out.ts';
import { changeJotting, jot, jottingsOf } from '../../src/server/day/jottings.ts';
import { calendarOwner, calendarPath, ownRows } from '../../src/server/ledger/calendar.ts';
import { changeCommitment, changeMany, enterCommitment, undoMany } from '../../src/server/ledger/changes.ts';
import { checkLedger } from '../../src/server/ledger/check.ts';
import { type LedgerRow, ledgerRows } from '../../src/server/ledger/commitments.ts';
import { keepImport, ledgerFile, previewImport } from '../../src/server/ledger/files.ts';
import { changeRegister, registerOf } from '../../src/server/ledger/registers.ts';
import { dropView, saveView, viewsOf } from '../../src/server/ledger/views.ts';
import { briefingFor } from '../../src/server/meetings/briefings.ts';
import { dayPage } from '../../src/server/pages/day.ts';
import { peoplePage, personPage } from '../../src/server/pages/person.ts';
import { projectPage } from '../../src/server/pages/project.ts';
import type { Workspace } from '../../src/server/people/workspace.ts';
import { demoWorld, TODAY } from './world.ts';

const P = 'quiet-crossing';
let ws: Workspace;
beforeEach(async () => {
  ws = await demoWorld();
});
const row = async (ref: string): Promise<LedgerRow> => (await ledgerRows(ws, { project: P, state: 'all' })).find((r) => r.ref === ref)!;

describe('changes by hand', () => {
  it('put off, into the backlog, and taken up again', async () => {
    const c = await row('C-12');
    await changeCommitment(ws, c.id, { do: 'put off', until: '2026-03-20' });
    expect((await row('C-12')).putOff).toBe('2026-03-20');
    expect((await dayPage(ws)).late.map((r) => r.ref)).not.toContain('C-12');
    await changeCommitment(ws, c.id, { do: 'put off', until: null });
    expect((await row('C-12')).putOff).toBe('backlog');
    await changeCommitment(ws, c.id, { do: 'take up' });
    expect((await row('C-12')).putOff).toBeNull();
    await expect(changeCommitment(ws, c.id, { do: 'put off', until: TODAY })).rejects.toThrow('not in the future');
    expect((await checkLedger(ws.db)).differences).toEqual([]);
  });
  it('waiting for another commitment, never in a circle', async () => {
    const [a, b, c] = await Promise.all(['C-2', 'C-3', 'C-4'].map(row));
    await changeCommitment(ws, a!.id, { do: 'block', on: 'C-3' });
    await changeCommitment(ws, b!.id, { do: 'block', on: 'C-4' });
    expect((await row('C-2')).waitsFor).toBe('C-3');
    await expect(changeCommitment(ws, c!.id, { do: 'block', on: 'C-2' })).rejects.toThrow('C-4 would wait for itself');
    await expect(changeCommitment(ws, a!.id, { do: 'block', on: 'C-2' })).rejects.toThrow('would wait for itself');
    await expect(changeCommitment(ws, a!.id, { do: 'block', on: 'C-999' })).rejects.toThrow('There is no C-999');
    expect((await checkLedger(ws.db)).differences).toEqual([]);
  });
  it('of many at once, with undo; what it does not fit is left and told', async () => {
    const rows = (await ledgerRows(ws, { project: P, state: 'open' })).slice(0, 6);
    const done = (await ledgerRows(ws, { project: P, state: 'ended' }))[0]!;
    const out = await changeMany(ws, { ids: [...rows.map((r) => r.id), done.id], change: { do: 'move', due: '2026-04-01' } });
    expect(out.rows.every((r) => r.due === '2026-04-01')).toBe(true);
    expect(out.left).toEqual([`${done.ref} is done.`]);
    await undoMany(ws, out.events);
    for (const r of rows) expect((await row(r.ref)).due).toBe(r.due);
    await expect(changeMany(ws, { ids: [rows[0]!.id], change: { do: 'hand over', owner: ['stranger'] } })).rejects.toThrow('Nobody here is called');
    expect((await row(rows[0]!.ref)).owner).toEqual(rows[0]!.owner);
  });
  it('by somebody who has not seen the newest change are refused, with both told', async () => {
    const c = await row('C-2');
    await changeCommitment(ws, c.id, { do: 'move', due: '2026-03-20', seen: c.last });
    await expect(changeCommitment(ws, c.id, { do: 'move', due: '2026-03-25', seen: c.last })).rejects.toMatchObject({ message: 'Ines Falk moved it to Fri 20 Mar while you were editing.', advice: expect.stringContaining('move it to Wed 25 Mar') });
    const now = await row('C-2');
    expect((await changeCommitment(ws, c.id, { do: 'move', due: '2026-03-25', seen: now.last })).row.due).toBe('2026-03-25');
  });
  it('enter a commitment with no meeting behind it', async () => {
    const { row: made } = await enterCommitment(ws, P, { text: 'Order the second pump', owner: ['new:Zoe Quist'], due: '2099-12-31' });
    expect(made).toMatchObject({ from: 'by hand', meeting: null, due: '2099-12-31', owner: [{ name: 'Zoe Quist' }] });
  });
});

describe('the Ledger as files', () => {
  it('reads back what it wrote: CSV by papaparse, to-dos by ical.js, JSON', async () => {
    await enterCommitment(ws, P, { text: '=HYPERLINK("x")', owner: [], due: null });
    const rows = await ledgerRows(ws, { project: P, state: 'all' });
    const csv = Papa.parse<Record<string, string>>(ledgerFile(rows, 'csv', TODAY).replace(/^\uFEFF/, ''), { header: true, skipEmptyLines: true }).data;
    expect(csv.map((c) => c.ref)).toEqual(rows.map((r) => r.ref));
    expect(csv.find((c) => c.what!.includes('HYPERLINK'))!.what).toBe('\'=HYPERLINK("x")');
    const calendar = new ICAL.Component(ICAL.parse(ledgerFile(rows, 'ics', TODAY)));
    const todos = calendar.getAllSubcomponents('vtodo');
    expect(todos.map((t) => t.getFirstPropertyValue('uid'))).toEqual(rows.map((r) => `commitment-${r.id}@ottik.example`));
    const c2 = todos.find((t) => String(t.getFirstPropertyValue('summary')).startsWith('C-2 '))!;
    expect(String(c2.getFirstPropertyValue('due'))).toBe((await row('C-2')).due);
    expect(JSON.parse(ledgerFile(rows, 'json', TODAY)).commitments).toHaveLength(rows.length);
    expect(
      ledgerFile(rows, 'md', TODAY)
        .split('\n')
        .filter((l) => l.startsWith('| C-')),
    ).toHaveLength(rows.length);
  });
  it('bring a list in: new ones made, known ones changed, wrong lines told, and a second time nothing', async () => {
    const c = await row('C-2');
    const text = `ref,what,owner,due,status\n,Paint the casing,Bram Osei,2026-04-01,open\nC-2,${c.text},,2026-04-10,\n,Broken,,never ever,open\n,Old thing,Zoe Quist,,done\n`;
    const seen = await previewImport(ws, P, { name: 'list.csv', text });
    expect([seen.lines.length, seen.refused.map((r) => r.line)]).toEqual([3, [4]]);
    expect((await row('C-2')).due).toBe(c.due);
    const out = await keepImport(ws, P, { name: 'list.csv', text });
    expect([out.made, out.changed, out.refused.length]).toEqual([2, 1, 1]);
    expect((await row('C-2')).due).toBe('2026-04-10');
    expect(await keepImport(ws, P, { name: 'list.csv', text })).toMatchObject({ made: 0, changed: 0 });
    expect((await checkLedger(ws.db)).differences).toEqual([]);
  });
  it('read their own export without changing a thing', async () => {
    const rows = await ledgerRows(ws, { project: P, state: 'all' });
    for (const format of ['csv', 'ics'] as const) {
      const seen = await previewImport(ws, P, { name: `ledger.${format}`, text: ledgerFile(rows, format, TODAY) });
      expect([format, seen.lines.filter((l) => l.same).length]).toEqual([format, rows.length]);
    }
  });
  it('of ten thousand lines with three hundred broken take the others and name those', async () => {
    const lines = Array.from({ length: 10_000 }, (_, i) => (i % 33 === 0 && i < 9900 ? `,Broken ${i},,not a day at all,` : `,Thing number ${i} of many,Bram Osei,2026-05-0${(i % 9) + 1},`));
    const seen = await previewImport(ws, P, { name: 'big.csv', text: `ref,what,owner,due,state\n${lines.join('\n')}\n` });
    expect([seen.refused.length, seen.lines.length]).toEqual([300, 9700]);
    expect(seen.refused[0]).toEqual({ line: 2, what: '“not a day at all” is not a day' });
  });
  it('of a calendar take every to-do they can read, whatever its neighbours are', async () => {
    const todo = (...lines: string[]) => ['BEGIN:VTODO', ...lines, 'END:VTODO'].join('\r\n');
    const text = [
      'BEGIN:VCALENDAR',
      todo('SUMMARY:Grease the winch', 'DUE:20260410'),
      todo('SUMMARY:Paint the davit', 'DUE;VALUE=DATE:20269931'),
      todo('SUMMARY:Weld the rail', 'DUE:20260411T090000Z'),
      'BEGIN:VTODO',
      'SUMMARY:No end',
      'END:VCALENDAR',
      'BEGIN:VCALENDAR',
      todo('SUMMARY:Check the buoys'),
      'END:VCALENDAR',
    ].join('\r\n');
    const seen = await previewImport(ws, P, { name: 'two.ics', text });
    expect(seen.lines.map((l) => [l.text, l.due])).toEqual([
      ['Grease the winch', '2026-04-10'],
      ['Weld the rail', '2026-04-11'],
      ['Check the buoys', null],
    ]);
    expect(seen.refused.map((r) => r.line)).toEqual([6, 14]);
  });
  it('know owners by first name, initials and address, show what they would change, and are undone', async () => {
    const before = await row('C-2');
    const earlier = '2026-01-15';
    const text = `ref,what,owner,due\nC-2,${before.text},BO,${earlier}\n,Order shackles,bram and ruth,\n,Ring the chandler,"Bram <bram.osei@pellyard.example>",\n,Do it all,the team,`;
    const seen = await previewImport(ws, P, { name: 'l.csv', text });
    expect(seen.lines.map((l) => l.owner)).toEqual([['bram'], ['bram', 'ruth'], ['bram']]);
    expect(seen.lines[0]!.same!.changes!.join('; ')).toMatch(/^owner .* to Bram Osei; back from .* to Thu 15 Jan$/);
    expect(seen.refused).toEqual([{ line: 5, what: expect.stringContaining('nobody in particular') }]);
    const out = await keepImport(ws, P, { name: 'l.csv', text });
    expect([out.made, out.changed]).toEqual([2, 1]);
    await undoMany(ws, out.events);
    expect(await row('C-2')).toMatchObject({ due: before.due, owner: before.owner });
    expect((await ledgerRows(ws, { project: P })).some((r) => r.text === 'Order shackles')).toBe(false);
  });
  it('call nothing late that was done before anybody wrote down when', async () => {
    await keepImport(ws, P, { name: 'd.csv', text: 'what,due,state\nOld survey,2026-01-10,done' });
    const [old] = (await ledgerRows(ws, { project: P, state: 'ended' })).filter((r) => r.text === 'Old survey');
    expect(old!.endedOn).toBe('2026-01-10');
  });
  it('refuse what is no list', async () => {
    await expect(previewImport(ws, P, { name: 'a.csv', text: 'a,b\n1,2\n' })).rejects.toThrow('No column says what is to be done');
    await expect(previewImport(ws, P, { name: 'a.csv', text: '' })).rejects.toThrow('nothing in this file');
    await expect(previewImport(ws, P, { name: 'a.ics', text: 'BEGIN:VCALENDAR\nnonsense' })).rejects.toThrow(/not a calendar|no to-do/);
  });
  it('of one’s own open only with their whole address', async () => {
    const path = await calendarPath(ws);
    const link = /\/calendar\/(.*)\.ics$/.exec(path)![1]!;
    expect(await calendarOwner(ws.db, link)).toBe('ines');
    expect(await calendarOwner(ws.db, `bram${link.slice(4)}`)).toBeNull();
    expect(await calendarOwner(ws.db, 'ines')).toBeNull();
    expect((await ownRows(ws.db, 'ines')).every((r) => r.owner.some((o) => o.id === 'ines'))).toBe(true);
    expect(await ownRows(ws.db, 'bram')).toEqual([]);
  });
});

describe('saved views', () => {
  it('are kept by name, for who saved them', async () => {
    const before = await viewsOf(ws, P);
    await saveView(ws, P, { name: 'mine', query: 'mine late', grouping: 'due' });
    const views = await saveView(ws, P, { name: 'mine', query: 'mine', grouping: 'owner' });
    expect(views.filter((v) => v.name === 'mine')).toMatchObject([{ query: 'mine', grouping: 'owner', columns: null }]);
    const withColumns = (await saveView(ws, P, { name: 'mine', query: 'mine', grouping: 'project', columns: ['state', 'due'] })).find((v) => v.name === 'mine');
    expect(withColumns).toMatchObject({ grouping: 'project', columns: ['state', 'due'] });
    expect(await dropView(ws, P, views.find((v) => v.name === 'mine')!.id)).toEqual(before);
  });
});

describe('registers', () => {
  it('show decisions with their words and what follows, and questions until they are answered', async () => {
    const decisions = await registerOf(ws, P, 'decision');
    expect(decisions.length).toBeGreaterThan(3);
    expect(decisions.every((d) => d.said.length > 0 && d.said[0]!.words.length > 3)).toBe(true);
    const questions = await registerOf(ws, P, 'question');
    const [q] = questions;
    expect(q!.open).toBe(true);
    expect(await changeRegister(ws, q!.id, { do: 'close', note: 'Yes, says Kit' })).toMatchObject({ open: false, closed: 'Yes, says Kit' });
    expect((await briefingFor(ws, P, ['kit'], null)).parked.map((x) => x.ref)).not.toContain(q!.ref);
    expect(await changeRegister(ws, q!.id, { do: 'open' })).toMatchObject({ open: true, closed: null });
    expect(await changeRegister(ws, decisions[1]!.id, { do: 'replace', by: decisions[0]!.ref })).toMatchObject({ open: false, closed: decisions[0]!.ref });
  });
});

describe('jottings', () => {
  it('are kept, found, attached, made into commitments, taken off and put back', async () => {
    const made = await jot(ws, P, { text: 'Kit wants the second pump by 12 March' });
    expect(made).toMatchObject({ on: TODAY, about: null, became: null });
    expect((await jottingsOf(ws, P, { words: 'PUMP second' })).map((j) => j.id)).toEqual([made.id]);
    expect(await changeJotting(ws, made.id, { do: 'attach', about: { kind: 'person', id: 'kit' }, standing: true })).toMatchObject({ about: { name: 'Kit Ferrand' }, standing: true });
    await expect(changeJotting(ws, made.id, { do: 'attach', about: { kind: 'person', id: 'nobody' }, standing: false })).rejects.toThrow('no such person');
    const became = await changeJotting(ws, made.id, { do: 'commit', text: 'Second pump', owner: ['kit'], due: '2026-03-12' });
    expect(became).toMatchObject({ became: expect.stringMatching(/^C-\d+$/) });
    await expect(changeJotting(ws, made.id, { do: 'commit', text: 'Again', owner: [], due: null })).rejects.toThrow('became C-');
    await changeJotting(ws, made.id, { do: 'remove' });
    expect((await jottingsOf(ws, P)).map((j) => j.id)).not.toContain(made.id);
    await changeJotting(ws, made.id, { do: 'put back' });
    expect((await jottingsOf(ws, P)).map((j) => j.id)).toContain(made.id);
  });
  it('are their writer’s alone', async () => {
    const made = await jot(ws, P, { text: 'private' });
    const other = ws.with({ asker: { ...ws.asker, person: 'bram', name: 'Bram Osei' } });
    expect((await jottingsOf(other, P)).map((j) => j.id)).not.toContain(made.id);
    await expect(changeJotting(other, made.id, { do: 'remove' })).rejects.toThrow('no such jotting');
  });
});

describe('the close-out', () => {
  it('puts off what is chosen, all or none, and pins tomorrow’s first thing', async () => {
    const page = await closeOutPage(ws, P);
    expect(page.tomorrow).toBe('2026-03-06');
    expect(page.rest[0]!.mine).toBe(true);
    expect(page.rest.every((r) => r.due! <= TODAY)).toBe(true);
    const [a, b, c] = page.rest;
    await expect(
      closeTheDay(ws, P, {
        choices: [
          { id: a!.id, choice: { what: 'tomorrow' } },
          { id: 99_999, choice: { what: 'backlog' } },
        ],
        firstThing: '',
      }),
    ).rejects.toThrow('settled meanwhile');
    expect((await row(a!.ref)).putOff).toBeNull();
    const out = await closeTheDay(ws, P, {
      choices: [
        { id: a!.id, choice: { what: 'tomorrow' } },
        { id: b!.id, choice: { what: 'backlog' } },
        { id: c!.id, choice: { what: 'leave' } },
      ],
      firstThing: 'Ring Hanne',
    });
    expect(out.changed).toBe(2);
    expect(out.summary).toContain(`- ${b!.ref}  `);
    expect(out.summary).toContain('First thing tomorrow\n- Ring Hanne');
    expect([(await row(a!.ref)).putOff, (await row(b!.ref)).putOff, (await row(c!.ref)).putOff]).toEqual(['2026-03-06', 'backlog', null]);
    expect(await firstThing(ws.with({ today: '2026-03-06' }), P)).toBe('Ring Hanne');
    expect((await closeOutPage(ws, P)).closed!.summary).toBe(out.summary);
    const next = await dayPage(ws.with({ today: '2026-03-06' }));
    expect(next.back.map((r) => r.ref)).toEqual([a!.ref]);
    expect(next.firstThing).toBe('Ring Hanne');
    expect((await checkLedger(ws.db)).differences).toEqual([]);
  });
});

describe('people and the project', () => {
  it('a person: both sides, letters and answers, notes', async () => {
    const p = await personPage(ws, 'sam');
    expect(p.theirs.every((r) => r.owner.some((o) => o.id === 'sam'))).toBe(true);
    expect(p.mine.every((r) => r.owner.some((o) => o.id === 'ines'))).toBe(true);
    expect(p.heard.letters.length).toBeGreaterThan(0);
    expect(p.heard.answers).toEqual([TODAY]);
    expect(p.heard.silentFor).toBeNull();
    expect((await personPage(ws, 'bram')).notes.some((n) => n.standing)).toBe(true);
    expect((await personPage(ws, 'petra')).person.bounced).toContain('mailbox is full');
    await expect(personPage(ws, 'nobody-here')).rejects.toThrow('no such person');
  });
  it('everybody, with who is silent', async () => {
    const all = await peoplePage(ws);
    expect(all.find((p) => p.id === 'hanne')!.open).toBe(0);
    expect(all.find((p) => p.id === 'petra')!.silentFor).toBeGreaterThan(0);
  });
  it('the project: heat with its reasons, counts that add up, what changed this week', async () => {
    const p = await projectPage(ws);
    const open = (await ledgerRows(ws, { project: P, state: 'open' })).length;
    expect(p.current.open).toBe(open);
    expect(p.ages.reduce((s, a) => s + a.count, 0)).toBe(open);
    expect(p.current.heat.reasons.reduce((s, r) => s + r.points, 0)).toBe(p.current.heat.points);
    expect(p.current.heat.level).toBe('hot');
    expect(p.changed.every((c) => c.on > '2026-02-26')).toBe(true);
    expect(p.others.map((o) => o.name)).toEqual(['Tide Tables']);
  });
});
