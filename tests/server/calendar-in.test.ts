import { afterEach, beforeEach, describe, expect, it } from 'vitest';
import { readCalendarIn, takeCalendarIn } from '../../src/server/meetings/calendar-in.ts';
import { meetingRows } from '../../src/server/meetings/meetings.ts';
import { plan } from '../../src/server/meetings/planning.ts';
import { seriesShown } from '../../src/server/meetings/series.ts';
import { peopleOf } from '../../src/server/people/people.ts';
import type { Workspace } from '../../src/server/people/workspace.ts';
import { demoWorld } from './world.ts';

const P = 'quiet-crossing';
let ws: Workspace;
beforeEach(async () => {
  ws = await demoWorld();
});
afterEach(() => ws.db.destroy());

const calendar = (...lines: string[]) => ['BEGIN:VCALENDAR', 'VERSION:2.0', ...lines, 'END:VCALENDAR'].join('\r\n');
const board = (...more: string[]) =>
  calendar('BEGIN:VEVENT', 'UID:board@x', 'SUMMARY:Yard board', 'DTSTART:20260303T100000Z', 'DTEND:20260303T110000Z', 'RRULE:FREQ=WEEKLY;BYDAY=TU', 'EXDATE:20260317T100000Z', 'ATTENDEE;CN=Bram:mailto:bram.osei@pellyard.example', 'ATTENDEE:mailto:mira.holt@quill.example', ...more, 'END:VEVENT');
const visit = (...more: string[]) => calendar('BEGIN:VEVENT', 'UID:visit@x', 'SUMMARY:Visit to the slip', 'ATTENDEE;CN="Ada Roy":mailto:ada@quill.example', ...more, 'END:VEVENT');

describe('a calendar that is brought in', () => {
  it('is shown first, and becomes series and meetings with who is asked to them', async () => {
    const text = calendar(...board().split('\r\n').slice(2, -1), ...visit('DTSTART:20260311T140000Z').split('\r\n').slice(2, -1), 'BEGIN:VEVENT', 'UID:old@x', 'SUMMARY:Long ago', 'DTSTART:20250311T140000Z', 'END:VEVENT');
    expect((await readCalendarIn(ws, P, text)).meetings.map((m) => [m.title, m.when, m.fate])).toEqual([
      ['Yard board', 'every Tuesday at 10:00', 'new'],
      ['Visit to the slip', 'Wed 11 Mar at 14:00', 'new'],
      ['Long ago', 'Tue 11 Mar 2025 at 14:00', 'past'],
    ]);
    const { taken, made } = await takeCalendarIn(ws, P, text);
    expect(taken).toBe(2);
    const shown = await seriesShown(ws, made[0]!.series!);
    expect(shown.meetings.slice(0, 3).map((m) => [m.date, m.cancelled])).toEqual([
      ['2026-03-10', false],
      ['2026-03-17', true],
      ['2026-03-24', false],
    ]);
    expect(Object.values(shown.names).sort()).toEqual(['Bram Osei', 'Mira Holt']);
    expect((await peopleOf(ws, P)).find((p) => p.name === 'Ada Roy')?.mail).toBe('ada@quill.example');
    expect((await meetingRows(ws, { id: made[1]!.meeting! }))[0]).toMatchObject({ date: '2026-03-11', time: '14:00', there: 1 });
    // the same once more is the same
    expect((await takeCalendarIn(ws, P, text)).taken).toBe(0);
    // taken back whole, and taken anew
    for (const m of made) await plan(ws, P, m.series ? { do: 'remove series', series: m.series } : { do: 'remove meeting', meeting: m.meeting! });
    expect((await takeCalendarIn(ws, P, text)).taken).toBe(2);
  });
  it('RFC 5546: a higher SEQUENCE moves it, a lower one does nothing, CANCEL calls it off', async () => {
    const [{ meeting }] = (await takeCalendarIn(ws, P, visit('DTSTART:20260311T140000Z', 'SEQUENCE:1'))).made as unknown as [{ meeting: number }];
    const row = async () => (await meetingRows(ws, { id: meeting }))[0]!;
    expect((await takeCalendarIn(ws, P, visit('DTSTART:20260312T150000Z', 'SEQUENCE:2'))).taken).toBe(1);
    expect(await row()).toMatchObject({ date: '2026-03-12', time: '15:00' });
    expect((await readCalendarIn(ws, P, visit('DTSTART:20260319T140000Z', 'STATUS:CANCELLED').replace('visit@x', 'other@x'))).meetings.map((m) => m.fate)).toEqual(['not held']);
    expect((await takeCalendarIn(ws, P, visit('DTSTART:20260311T140000Z', 'SEQUENCE:1'))).taken).toBe(0);
    expect(await row()).toMatchObject({ date: '2026-03-12' });
    await takeCalendarIn(ws, P, visit('DTSTART:20260312T150000Z', 'SEQUENCE:3', 'STATUS:CANCELLED'));
    expect(await row()).toMatchObject({ cancelled: true });
  });
  it('what is past by now is left as it was, and does not keep the rest from being taken', async () => {
    const entry = (text: string) => text.split('\r\n').slice(2, -1);
    const [{ meeting }] = (await takeCalendarIn(ws, P, visit('DTSTART:20260311T140000Z'))).made as unknown as [{ meeting: number }];
    const later = ws.with({ today: '2026-03-20' });
    expect((await takeCalendarIn(later, P, calendar(...entry(visit('DTSTART:20260311T150000Z', 'SEQUENCE:1')), ...entry(board())))).taken).toBe(1);
    expect((await meetingRows(ws, { id: meeting }))[0]).toMatchObject({ date: '2026-03-11', time: '14:00' });
  });
  it('a series follows what the calendar says of it now, and ends when it is called off', async () => {
    const [{ series }] = (await takeCalendarIn(ws, P, board())).made as unknown as [{ series: string }];
    await takeCalendarIn(ws, P, board('SEQUENCE:1').replace('BYDAY=TU', 'BYDAY=WE').replace('20260303T100000Z', '20260304T090000Z'));
    const shown = await seriesShown(ws, series);
    expect(shown.entry.when).toBe('every Wednesday at 09:00');
    expect(
      shown.meetings
        .filter((m) => !m.cancelled)
        .slice(0, 2)
        .map((m) => [m.date, m.time]),
    ).toEqual([
      ['2026-03-11', '09:00'],
      ['2026-03-18', '09:00'],
    ]);
    await takeCalendarIn(ws, P, board('SEQUENCE:2', 'STATUS:CANCELLED'));
    expect((await seriesShown(ws, series)).endedOn).toBe('2026-03-05');
  });
  it('refuses what is no calendar, and a title that is there already, and keeps nothing of either', async () => {
    const before = await ws.db.selectFrom('meetings').select('id').execute();
    await expect(takeCalendarIn(ws, P, 'hello')).rejects.toThrow('no calendar that can be read');
    await expect(takeCalendarIn(ws, P, board().replace('Yard board', 'Weekly works call'))).rejects.toThrow('There is a series');
    expect(await ws.db.selectFrom('meetings').select('id').execute()).toEqual(before);
  });
});
