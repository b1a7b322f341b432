import { afterAll, beforeAll, describe, expect, it } from 'vitest';
import { fillDays } from '../../demo/load.ts';
import { roundUpsFor } from '../../src/server/letters/round-up.ts';
import { attendeesOf, meetingRow, meetingRows, seriesRows } from '../../src/server/meetings/meetings.ts';
import { bringInPage } from '../../src/server/pages/bring-in.ts';
import { dayPage } from '../../src/server/pages/day.ts';
import { followUpPage } from '../../src/server/pages/follow-up.ts';
import { gistPage } from '../../src/server/pages/gist.ts';
import { ledgerPage } from '../../src/server/pages/ledger.ts';
import { meetingsPage } from '../../src/server/pages/meetings.ts';
import { postPage } from '../../src/server/pages/post.ts';
import { siftPage } from '../../src/server/pages/sift.ts';
import { trailPage } from '../../src/server/pages/trail.ts';
import { weavePage } from '../../src/server/pages/weave.ts';
import { addPerson, peopleOf } from '../../src/server/people/people.ts';
import { projectsOf } from '../../src/server/people/projects.ts';
import type { Workspace } from '../../src/server/people/workspace.ts';
import { keepRecord, nextSitting } from '../../src/server/records/bringing-in.ts';
import { bytes, demoWorld, TODAY } from './world.ts';

let ws: Workspace;
let s: Workspace;
beforeAll(async () => {
  ws = await demoWorld();
  s = ws.with({ project: 'quiet-crossing', today: TODAY });
});
afterAll(() => ws.db.destroy());

describe('what the pages show', () => {
  it('Day: late, due, loose, meetings around today, the record that waits', async () => {
    const d = await dayPage(s);
    expect(d.week).toBe(10);
    expect(d.late.every((r) => r.due! < TODAY)).toBe(true);
    expect(d.due.every((r) => r.due === TODAY)).toBe(true);
    expect(d.loose.map((r) => r.text)).toContain('Find a second welder for frame 14');
    expect(d.unsifted).toBe(1);
    const today = d.meetings.find((m) => m.meeting.date === TODAY)!;
    expect(today.lacks).toMatch(/finds left/);
    expect(d.earlier.map((m) => m.lacks)).toContain('round-up not sent');
    const next = d.meetings.find((m) => m.meeting.date > TODAY && m.meeting.series === 'works')!;
    expect(next.bring.length).toBeGreaterThan(5);
    expect(next.lacks).toBeNull();
  });
  it('Meetings: the week, and the series with what is open in them', async () => {
    const m = await meetingsPage(s, null);
    expect(m.monday).toBe('2026-03-02');
    expect(m.rows.map((r) => r.title)).toEqual(['Yard walk with Bram', 'Weekly works call']);
    expect(m.series.find((x) => x.id === 'works')).toMatchObject({ often: 'every Thursday at 10:00' });
    expect(m.series.find((x) => x.id === 'works')!.dates.filter((d) => d.held)).toHaveLength(6);
    expect((await meetingsPage(s, '2026-02-04')).rows.length).toBe(0 + (await meetingRows(ws, { project: s.project, from: '2026-02-02', to: '2026-02-08' })).length);
    expect((await meetingsPage(s, 'nonsense')).monday).toBe('2026-03-02');
  });
  it('Gist: topics, shares and summary of a record, of its first minutes, and the time spent on a subject', async () => {
    const waiting = (await meetingRows(ws, { project: s.project })).find((m) => m.findsLeft > 0)!;
    const whole = (await gistPage(s, waiting.id, { record: null, about: 'the permit', until: null })).shown!;
    expect(whole.gist.topics.length).toBeGreaterThan(2);
    expect(whole.gist.shares[0]!.voice).toBe('Ines Falk');
    expect(whole.gist.summary.usual.some((l) => l.carries === 'decision')).toBe(true);
    expect(whole.about!.time.stretches.every((x) => /permit/i.test(whole.said.get(x.segment)!.text))).toBe(true);
    expect(whole.about!.time.seconds).toBeGreaterThan(5);
    const early = (await gistPage(s, waiting.id, { record: null, about: '', until: 60 })).shown!;
    expect(early.gist.length).toBeLessThan(whole.gist.length);
    expect(early.about).toBeNull();
    const none = (await meetingRows(ws, { project: s.project })).find((m) => m.records === 0)!;
    expect((await gistPage(s, none.id, { record: null, about: '', until: null })).shown).toBeNull();
    await expect(gistPage(s, 9999, { record: null, about: '', until: null })).rejects.toThrow('no such meeting');
  });
  it('Weave: threads of a series by holder, its sittings with what was made and ended, and the words at each knot', async () => {
    const asked = { series: 'works', person: null, order: 'owner' as const, closed: true };
    const w = await weavePage(s, asked);
    expect(w.title).toBe('Weekly works call');
    expect(w.view.sittings.filter((x) => x.held)).toHaveLength(6);
    const rows = w.view.groups.flatMap((g) => g.rows);
    expect(w.view.sittings.reduce((n, x) => n + x.made, 0)).toBe(new Set(rows.map((r) => r.ref)).size);
    for (const k of rows.flatMap((r) => r.knots)) expect(w.view.words.some((x) => x.event === k.event)).toBe(true);
    expect(w.view.words.filter((x) => x.href && x.text).length).toBeGreaterThan(10);
    const open = await weavePage(s, { ...asked, closed: false, order: 'age' });
    expect(open.view.groups[0]!.rows.every((r) => r.open)).toBe(true);
    const bram = await weavePage(s, { series: null, person: 'bram', order: 'age', closed: true });
    expect(bram.title).toContain('Bram Osei');
    expect(bram.view.groups[0]!.rows.length).toBeLessThan((await weavePage(s, { ...asked, series: null })).view.groups.flatMap((g) => g.rows).length);
    await expect(weavePage(s, { ...asked, series: 'nothing' })).rejects.toThrow('no such series');
    await expect(weavePage(s, { ...asked, series: null, person: 'nobody-here' })).rejects.toThrow('no such person');
  });
  it('Sift: record, finds, what was open, and the next references', async () => {
    const waiting = (await meetingRows(ws, { project: s.project })).find((m) => m.findsLeft > 0)!;
    const page = await siftPage(s, waiting.id);
    expect(page.view!.finds.length).toBe(waiting.finds);
    expect(page.view!.record.captions).toBe(true);
    expect(page.view!.meeting.next).toBe('2026-03-12');
    expect(page.view!.next.action).toBe(26);
    expect(page.view!.open.length).toBeGreaterThan(10);
    const planned = (await meetingRows(ws, { project: s.project, from: '2026-03-06' }))[0]!;
    expect((await siftPage(s, planned.id)).view).toBeNull();
    await expect(siftPage(s, Number.NaN)).rejects.toThrow(/no such meeting/);
  });
  it('Sift: of several records one at a time, each with its own finds', async () => {
    const walk = (await meetingRows(ws, { project: s.project })).find((m) => m.title === 'Yard walk with Bram')!;
    const first = await siftPage(s, walk.id);
    await keepRecord(
      ws,
      { project: s.project, fileName: 'second.txt', meeting: walk.id, series: null, title: walk.title, date: walk.date, author: 'ines', voices: {} },
      bytes('Ines Falk: Bram, can you send the signed weights of the engine?\nBram Osei: Yes, I will send the weights by Friday.\nInes Falk: Good.\nBram Osei: The weather is bad.'),
    );
    const both = await siftPage(s, walk.id);
    expect(both.records).toHaveLength(2);
    const second = both.records.find((r) => r.name === 'second.txt')!;
    expect(second.left).toBeGreaterThan(0);
    expect(both.view!.record.id).toBe(second.id);
    expect(both.view!.finds.every((f) => f.record === second.id)).toBe(true);
    const again = await siftPage(s, walk.id, first.view!.record.id);
    expect(again.view!.finds.map((f) => f.id)).toEqual(first.view!.finds.map((f) => f.id));
  });
  it('Follow up: the letter and who it can go to', async () => {
    const walk = (await meetingRows(ws, { project: s.project })).find((m) => m.title === 'Yard walk with Bram')!;
    // looking drafts nothing
    expect((await followUpPage(s, walk.id)).letter).toBeNull();
    await roundUpsFor(ws, walk.id);
    const page = await followUpPage(s, walk.id);
    expect(page.people.map((p) => p.id)).toEqual(['bram']);
    expect(page.letter!.body).toContain('Ring the maker about the fire damper');
    expect(page.letter!.state).toBe('draft');
    const planned = (await meetingRows(ws, { project: s.project, from: '2026-03-06' }))[0]!;
    expect((await followUpPage(s, planned.id)).letter).toBeNull();
  });
  it('Post: the plan of a fortnight, what waits, what came back, who is silent, what went out', async () => {
    const p = await postPage(s);
    expect(p.days.length).toBe(14);
    expect(p.days.filter((d) => !d.works).length).toBe(4);
    expect(p.toCome.filter((l) => l.day === s.today).length).toBeGreaterThan(2);
    expect(p.toCome.every((l) => l.about.every((a) => a.why.length > 3))).toBe(true);
    // the round-up of the yard walk, which was drafted above
    expect(p.drafts.map((d) => d.kind)).toEqual(['round-up']);
    expect(p.unwritten.length).toBeGreaterThan(0);
    expect(
      p.replies
        .filter((r) => r.answers.some((a) => a.verdict === 'open'))
        .map((r) => r.person)
        .sort(),
    ).toEqual(['sam', 'yusuf']);
    expect(p.silent.map((x) => x.person)).toContain('petra');
    expect(p.sent.every((l) => l.state === 'sent')).toBe(true);
    const sam = p.rows.find((r) => r.id === 'sam')!;
    expect(sam.marks.map((m) => [m.day, m.what])).toContainEqual(['2026-03-04', 'sent']);
    expect(sam.marks.map((m) => [m.day, m.what])).toContainEqual(['2026-03-05', 'answered']);
  });
  it('Ledger: rows, figures, and the filter of the address', async () => {
    const page = await ledgerPage(s, new URLSearchParams('owner=sam&state=all&text=berth'));
    expect(page.view.start).toEqual({ owner: 'sam', state: 'all', series: '', due: '', text: 'berth' });
    expect(page.open).toBe(page.view.rows.filter((r) => r.state === 'open' || r.state === 'blocked').length);
    expect(page.late).toBeGreaterThan(0);
    expect(page.loose).toBeGreaterThan(0);
    const plinth = page.view.rows.find((r) => r.ref === 'C-2')!;
    expect(plinth).toMatchObject({ moved: 2, carried: 4, from: 'works' });
    expect(plinth.life.map((e) => e.kind)).toEqual(['made', 'moved', 'restated', 'moved']);
  });
  it('Trail: by reference, with words and sittings', async () => {
    const page = await trailPage(s, 'c-2');
    expect(page.trail.events.map((e) => e.kind)).toEqual(['made', 'moved', 'restated', 'moved']);
    expect(page.trail.events[0]!.said[0]).toMatchObject({ voice: 'Dele Marchetti' });
    expect(page.trail.sittings.filter((x) => x.held)).toHaveLength(5);
    expect(page.next).toBe('2026-03-12');
    await expect(trailPage(s, 'C-999')).rejects.toThrow(/no C-999/);
    await expect(trailPage(s, '<b>')).rejects.toThrow(/not a reference/);
  });
  it('Bring in: meetings that lack a record, series, people', async () => {
    const page = await bringInPage(s, '10');
    expect(page.view.meeting).toBe(10);
    expect(page.view.series.map((x) => x.title)).toEqual(['Steering committee', 'Weekly works call']);
    expect((await bringInPage(s, 'x')).view.meeting).toBeNull();
  });
});

describe('people, projects and sittings', () => {
  it('a new person gets an id of their own, and the same name twice is one person', async () => {
    const first = await addPerson(ws, s.project, '  Ada   Holm ');
    expect(first).toBe('ada-holm');
    expect(await addPerson(ws, s.project, 'ada holm')).toBe(first);
    expect((await peopleOf(ws, s.project)).find((p) => p.id === first)).toMatchObject({ name: 'Ada Holm', mail: null });
    await expect(addPerson(ws, s.project, '!!')).rejects.toThrow(/not a name/);
    await expect(addPerson(ws, 'nowhere', 'Ada Holm')).rejects.toThrow(/no such project/);
  });
  it('projects are those one is a member of', async () => {
    expect((await projectsOf(ws)).map((p) => p.name)).toEqual(['Quiet Crossing', 'Tide Tables']);
    expect(await projectsOf(ws.with({ asker: { ...ws.asker, projects: new Set() } }))).toEqual([]);
  });
  it('the next sitting is the planned one, or the one the rhythm gives', async () => {
    expect(await nextSitting(ws.db, 'works', TODAY)).toBe('2026-03-12');
    expect(await nextSitting(ws.db, 'works', '2026-03-19')).toBe('2026-03-26');
    expect(await nextSitting(ws.db, null, TODAY)).toBeNull();
  });
  it('who was there and who was not', async () => {
    const works = (await meetingRows(ws, { project: s.project, series: 'works' }))[0]!;
    const there = await attendeesOf(ws, works.id);
    expect(there.find((a) => a.id === 'sam')!.present).toBe(false);
    expect((await meetingRow(ws, works.id)).there).toBe(there.filter((a) => a.present).length);
    expect((await seriesRows(ws, s.project)).map((x) => x.id).sort()).toEqual(['steering', 'works']);
  });
});

describe('days in the demo’s records', () => {
  it('are written out from the day of the meeting', () => {
    expect(fillDays('by the {{nth 15}}, on {{weekday 7}}, -> {{short 13}}', '2026-02-05')).toBe('by the twentieth, on Thursday 12 February, -> 18 Feb');
  });
});
