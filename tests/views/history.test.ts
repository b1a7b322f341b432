import { describe, expect, it } from 'vitest';
import { History } from '../../src/views/parts/history.ts';

/** A page that holds a number, each step adding to it. */
function page() {
  const history = new History();
  const now = { n: 0 };
  const add = (by: number) => {
    now.n += by;
    history.push({
      head: `added ${by}`,
      undo: async () => {
        now.n -= by;
      },
      redo: async () => {
        now.n += by;
      },
    });
  };
  return { history, now, add };
}

describe('what was done on a page', () => {
  it('is taken back, the last step first, and done again in the order it was done', async () => {
    const { history, now, add } = page();
    add(1);
    add(10);
    expect([await history.undo(), now.n]).toEqual(['added 10', 1]);
    expect([await history.undo(), now.n]).toEqual(['added 1', 0]);
    expect(await history.undo()).toBeNull();
    expect([await history.redo(), now.n]).toEqual(['added 1', 1]);
    expect([await history.redo(), now.n]).toEqual(['added 10', 11]);
    expect(await history.redo()).toBeNull();
    expect(history.canUndo).toBe(true);
  });
  it('is not done again after something new', async () => {
    const { history, now, add } = page();
    add(1);
    await history.undo();
    add(5);
    expect(await history.redo()).toBeNull();
    expect(now.n).toBe(5);
  });
  it('stays where it was when taking it back fails, to be tried once more', async () => {
    const history = new History();
    let fails = true;
    history.push({
      head: 'sent',
      undo: async () => {
        if (fails) throw new Error('not reached');
      },
    });
    await expect(history.undo()).rejects.toThrow('not reached');
    expect(history.canUndo).toBe(true);
    fails = false;
    expect(await history.undo()).toBe('sent');
    expect(history.canUndo).toBe(false);
  });
  it('is not offered again where it cannot be done twice', async () => {
    const history = new History();
    history.push({ head: 'sent', undo: async () => {} });
    await history.undo();
    expect(await history.redo()).toBeNull();
  });
  it('may be added to while a step is being taken back', async () => {
    const { history, now, add } = page();
    history.push({
      head: 'slow',
      undo: async () => {
        add(3);
      },
    });
    expect(await history.undo()).toBe('slow');
    expect([await history.undo(), now.n]).toEqual(['added 3', 0]);
  });
});
