import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { ownWords } from '../../../../src/core/letters/replies/own-words.ts';
import { type ReplyInput, readReply } from '../../../../src/core/letters/replies/read-reply.ts';

const items = [
  { n: 1, commitment: 26, ref: 'C-26', text: 'Signed weights of everything taken out of Dunlin', due: '2026-02-27' },
  { n: 2, commitment: 39, ref: 'C-39', text: 'Hoist certificate to Mirela', due: '2026-03-05' },
  { n: 3, commitment: 20, ref: 'C-20', text: 'Port diesel out', due: '2026-03-06' },
];
const people = [
  { id: 'bram', name: 'Bram Osei', aliases: [], role: 'yard lead' },
  { id: 'jonas', name: 'Jonas Pike', aliases: [], role: '' },
  { id: 'ruth', name: 'Ruth Adair', aliases: [], role: '' },
];
const read = (text: string, more: Partial<ReplyInput> = {}) => readReply({ text, writer: { id: 'bram', name: 'Bram Osei' }, on: '2026-03-05', next: '2026-03-12', language: 'en', items, asks: false, people, ...more });
/** `26 done!, 39 moved 2026-05-14?` : commitment, kind, what changes, and ! for sure */
const brief = (text: string, more: Partial<ReplyInput> = {}) =>
  read(text, more)
    .map((a) => [a.commitment ?? '-', a.kind, a.due, a.owner?.join('+')].filter(Boolean).join(' ') + (a.sure ? '!' : '?'))
    .join(', ');
const one = { items: items.slice(1, 2) };

describe('an answer with numbers', () => {
  it.each([
    ['1 done, 2 can I have until 14 May, 3 is with Jonas now', '26 done!, 39 moved 2026-05-14?, 20 reassigned jonas!'],
    ['1 - done\n2 - not yet, Monday\n3. waiting for the crane', '26 done!, 39 moved 2026-03-09!, 20 blocked!'],
    ['1 and 3 are done, 2 by 9 March.', '26 done!, 20 done!, 39 moved 2026-03-09!'],
    ['1-3 done', '26 done!, 39 done!, 20 done!'],
    ['no. 2: sent over yesterday', '39 done!'],
    ['C-39 is no longer needed. C-20 Jonas has it now. Is the meeting still on?', '39 dropped!, 20 reassigned jonas!, - question?'],
    ['done: 1 and 2', '26 done!, 39 done!'],
    ['1 done. Sorry: 1 is not done, by Friday', '26 moved 2026-03-06!'],
    ['I finished C-26', '26 done!'],
  ])('%j', (text, wanted) => expect(brief(text)).toBe(wanted));
  it('takes no number of a date, an amount or a time for a line of the letter', () => {
    expect(brief('by 3 March at 2:30 we need 2 days', one)).toMatch(/^39 moved/);
    expect(brief('I am on 12 other things, can we talk?')).toBe('- question?');
    expect(brief('It takes 2 weeks more')).not.toMatch(/39 /);
  });
});

describe('an answer without numbers', () => {
  it.each([
    ['All done.', '26 done!, 39 done!, 20 done!'],
    ['The weights went out on Monday. The certificate is stuck with the inspectorate.', '26 done?, 39 blocked?'],
  ])('%j', (text, wanted) => expect(brief(text)).toBe(wanted));
  it.each([
    ['Done!', '39 done!'],
    ['Not done yet', '39 progress!'],
    ['Nearly there', '39 progress!'],
    ['I will have it by 9 March', '39 moved 2026-03-09!'],
    ['Should be finished on 10 March I hope', '39 moved 2026-03-10?'],
    ['I think it is done', '39 done?'],
    ['The drawings are finished, but Jonas still has to check two runs, so call it Monday.', '39 moved 2026-03-09?'],
    ['Drawn, but it still has to be stamped', '39 remark?'],
    ['what certificate?', '39 question?'],
    ['Can I have another week?', '39 moved 2026-03-12?'],
    ['Not mine, ask Jonas.', '39 reassigned jonas?'],
    ['Drop it, the inspectorate does not want it any more', '39 dropped!'],
    ['We are on it and it keeps its date', '39 progress!'],
  ])('about the one thing that was asked: %j', (text, wanted) => expect(brief(text, one)).toBe(wanted));
  it('a yes confirms where it was asked for, and only there', () => {
    expect(brief('yes', { ...one, asks: true })).toBe('39 confirmed!');
    expect(brief('Got it, thanks', { asks: true })).toBe('26 confirmed!, 39 confirmed!, 20 confirmed!');
    expect(brief('ok', one)).toBe('39 progress?');
    expect(brief('no', { ...one, asks: true })).toBe('39 declined?');
  });
});

describe('answers in the languages letters are written in', () => {
  it.each([
    ['de', '1 erledigt, 2 bis 14. Mai, 3 liegt bei Jonas'],
    ['fr', '1 fait, 2 pour le 14 mai, 3 Jonas s’en occupe'],
    ['es', '1 hecho, 2 el 14 de mayo, 3 lo lleva Jonas'],
    ['pt', '1 feito, 2 a 14 de maio, 3 está com o Jonas'],
  ] as const)('%s', (language, text) => expect(brief(text, { language })).toBe('26 done!, 39 moved 2026-05-14!, 20 reassigned jonas!'));
  it('a yes and a not yet', () => {
    expect(['ja', 'oui', 'sí', 'sim'].map((w) => brief(w, { ...one, asks: true }))).toEqual(Array(4).fill('39 confirmed!'));
    expect((['noch nicht fertig', 'pas encore', 'todavía no', 'ainda não'] as const).map((w, i) => brief(w, { ...one, language: (['de', 'fr', 'es', 'pt'] as const)[i]! }))).toEqual(Array(4).fill('39 progress!'));
  });
});

const QUOTED = '> Dear Bram,\n>\n> 1. C-26  Signed weights. Due Fri 27 Feb.\n> 2. C-39  Hoist certificate. Due today.\n> 3. C-20  Port diesel out.\n>\n> Ines Falk';
const HEAD = 'On Thu, 5 Mar 2026 at 09:00, Ines Falk wrote:';

describe('what is quoted', () => {
  it('below, above, between the lines, or not at all gives the same', () => {
    const wanted = '26 done!, 39 moved 2026-03-09!';
    expect(brief('1 done, 2 by Monday\n\nBram')).toBe(wanted);
    expect(brief(`1 done, 2 by Monday\n\nBram\n\n${HEAD}\n${QUOTED}`)).toBe(wanted);
    expect(brief(`${HEAD}\n${QUOTED}\n\n1 done, 2 by Monday`)).toBe(wanted);
    expect(brief(`${HEAD}\n> 1. C-26  Signed weights.\n\ndone\n\n> 2. C-39  Hoist certificate.\n\nby Monday\n`)).toBe(wanted);
  });
  it('above an answer of several paragraphs is answered as a whole, not by its last line', () => {
    const items1 = { items: items.slice(0, 2) };
    expect(brief(`${HEAD}\n> 1. C-26  Signed weights.\n> 2. C-39  Hoist certificate.\n\n1 done\n\nThe weights took a while.`, items1)).not.toMatch(/39/);
  });
  it('without marks is quoted all the same', () => {
    expect(brief(`1 done, 2 by Monday\n\nBram\n\n${HEAD}\nDear Bram,\n1. C-26  Signed weights.\n3 done`)).toBe('26 done!, 39 moved 2026-03-09!');
  });
  it('is never read, nor are greetings, closing words and signatures', () => {
    expect(ownWords(`Hello Ines,\n\n1 done\n\nKind regards\nBram Osei\nPell Yard, slip 2\n\n${HEAD}\n${QUOTED}`, 'Bram Osei').flatMap((p) => p.lines)).toEqual(['1 done']);
    expect(ownWords('done\n\n-- \nBram Osei\nall done at Pell Yard', 'Bram Osei').flatMap((p) => p.lines)).toEqual(['done']);
    expect(brief(`${HEAD}\n${QUOTED}`)).toBe('');
  });
});

describe('whatever comes', () => {
  it('never throws and only speaks of what was asked', () => {
    const bits = fc.constantFrom('1 ', '2. ', 'C-26 ', 'C-', 'done', ' not ', 'by ', 'Monday', '\n', '> ', HEAD, '?', ' und ', 'Jonas ', ' is with ', '1-3', '\u202e', '😀', ', ', 'x'.repeat(50));
    fc.assert(
      fc.property(fc.array(bits, { maxLength: 60 }), (parts) => {
        for (const a of read(parts.join(''))) {
          if (a.commitment !== null) expect([26, 39, 20]).toContain(a.commitment);
          if (a.kind === 'moved') expect(a.due).toMatch(/^\d{4}-\d{2}-\d{2}$/);
          if (a.kind === 'reassigned') expect(a.owner).toHaveLength(1);
        }
      }),
      { numRuns: 300 },
    );
    fc.assert(fc.property(fc.string({ maxLength: 4000 }), (text) => Array.isArray(read(text))));
  });
  it('stays quick on a very long line', () => {
    expect(Array.isArray(read(`1 done ${'lorem, 2 '.repeat(20_000)}`))).toBe(true);
  });
});
