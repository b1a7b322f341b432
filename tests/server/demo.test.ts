import { afterAll, describe, expect, it } from 'vitest';
import { loadDemo, storyDay } from '../../demo/load.ts';
import { weekday } from '../../src/core/dates/calendar.ts';
import { type Db, openDatabase } from '../../src/server/store/database.ts';

describe('the demo', () => {
  let db: Db;
  afterAll(() => db?.destroy());

  it('ends on the last working day whose call and answers have been', () => {
    expect(storyDay('2026-03-05', new Date('2026-03-05T15:00:00Z'))).toBe('2026-03-05');
    expect(storyDay('2026-03-05', new Date('2026-03-05T08:00:00Z'))).toBe('2026-03-04');
    // Monday morning: the last call was on Friday
    expect(storyDay('2026-03-09', new Date('2026-03-09T07:30:00Z'))).toBe('2026-03-06');
    expect(weekday(storyDay('2026-03-08', new Date('2026-03-08T15:00:00Z')))).toBe(5);
  });

  it('started in the morning has nothing of it in the future', async () => {
    db = await openDatabase(':memory:');
    const [today, now] = ['2026-03-05', new Date('2026-03-05T09:05:00Z')];
    await loadDemo(db, today, null, storyDay(today, now));
    const held = await db.selectFrom('records as r').innerJoin('meetings as m', 'm.id', 'r.meeting_id').select(['m.date', 'm.time']).execute();
    expect(held.length).toBeGreaterThan(5);
    for (const m of held) expect(`${m.date}T${m.time}` <= '2026-03-05T09:05').toBe(true);
    const replies = await db.selectFrom('replies').select('received_at').execute();
    for (const r of replies) expect(r.received_at <= now.toISOString()).toBe(true);
    const events = await db.selectFrom('events').select('on_day').execute();
    for (const e of events) expect(e.on_day <= today).toBe(true);
  });
});
