import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { isName, readOwners } from '../../../src/core/language/owners.ts';

const people = [
  { id: 'ines', name: 'Ines Falk', aliases: [], role: 'project manager' },
  { id: 'bram', name: 'Bram Osei', aliases: ['Bo'], role: 'yard lead' },
  { id: 'ruth', name: 'Ruth Adair', aliases: [], role: '' },
  { id: 'rutger', name: 'Rutger Holm', aliases: [], role: '' },
  { id: 'jm', name: 'Jean-Marc Roux', aliases: [], role: 'surveyor' },
];
const read = (text: string) => readOwners(text, people, 'ines');

describe('an owner field', () => {
  it.each([
    ['Bram and Ruth', ['bram', 'ruth']],
    ['bram & ines', ['bram', 'ines']],
    ['Bram Osei, Ruth Adair', ['bram', 'ruth']],
    ['Bram/Ruth', ['bram', 'ruth']],
    ['Bram und Ruth', ['bram', 'ruth']],
    ['me', ['ines']],
    ['Bram and me', ['bram', 'ines']],
    ['me, myself and Bram', ['ines', 'bram']],
    ['BO', ['bram']],
    ['if', ['ines']],
    ['R.A.', ['ruth']],
    ['yard lead', ['bram']],
    ['the surveyor', ['jm']],
    ['Jean-Marc', ['jm']],
    ['Osei', ['bram']],
    ['rutg', ['rutger']],
    ['nobody', []],
    ['no one', []],
    ['tbd', []],
    ['?', []],
    ['', []],
  ])('%j', (text, known) => expect(read(text)).toEqual({ known, unknown: [], refused: [] }));
  it('asks before somebody new is made of a name', () => {
    expect(read('Priya Nair')).toEqual({ known: [], unknown: ['Priya Nair'], refused: [] });
    expect(read('Bram and Priya')).toEqual({ known: ['bram'], unknown: ['Priya'], refused: [] });
  });
  it.each(['the team', 'everybody', 'somebody', 'we', 'f the week', 'end of the week', 'friday', '12', 'by tomorrow', 'x', 'next'])('makes nobody of %j', (text) => {
    const { known, unknown, refused } = read(text);
    expect([known, unknown, refused.length]).toEqual([[], [], 1]);
  });
  it('says who may be meant', () => expect(read('rut').refused[0]!.why).toBe('“rut” may be Ruth Adair or Rutger Holm. Type more of the name.'));
  it('never makes a name of two known people, in any order and with any word between', () => {
    fc.assert(
      fc.property(fc.constantFrom(...people), fc.constantFrom(...people), fc.constantFrom(' and ', ', ', ' & ', ' + ', '/', ' und ', ' et ', ' y ', ' e '), fc.boolean(), (a, b, between, first) => {
        const called = (p: (typeof people)[number]) => (first ? p.name.split(' ')[0]! : p.name);
        expect(read(`${called(a)}${between}${called(b)}`)).toEqual({ known: [...new Set([a.id, b.id])], unknown: [], refused: [] });
      }),
    );
  });
  it('knows names of many kinds', () => {
    for (const name of ['Priya', 'Ana Luísa Peres', 'O’Hara', 'van der Berg', 'Li Na', 'J. Pike', 'Søren Ågård']) expect([name, isName(name)]).toEqual([name, true]);
  });
});
