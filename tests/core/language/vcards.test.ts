import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { readPeopleList } from '../../../src/core/language/people-list.ts';

const card = (...lines: string[]) => ['BEGIN:VCARD', 'VERSION:4.0', ...lines, 'END:VCARD', ''].join('\r\n');
const read = (text: string) => readPeopleList(text).people.map((p) => [p.name, p.mail, p.role, p.organisation]);

describe('address cards', () => {
  // the properties are the examples of RFC 6350, in the sections named
  it.each([
    ['6.2.1, a comma in a name', card('FN:Mr. John Q. Public\\, Esq.'), ['Mr. John Q. Public, Esq.', null, '', '']],
    ['6.2.2, a name in its parts', card('N:Stevenson;John;Philip,Paul;Dr.;Jr.,M.D.,A.C.P.'), ['John Stevenson', null, '', '']],
    ['6.4.2, an address of a type', card('FN:J. Q. Public', 'EMAIL;TYPE=work:jqpublic@xyz.example.com'), ['J. Q. Public', 'jqpublic@xyz.example.com', '', '']],
    ['6.4.2 and 5.3, the preferred address', card('FN:Jane Doe', 'EMAIL;TYPE=home;PREF=2:other@example.com', 'EMAIL;PREF=1:jane_doe@example.com'), ['Jane Doe', 'jane_doe@example.com', '', '']],
    ['6.6.1, a title', card('FN:Jane Doe', 'TITLE:Research Scientist'), ['Jane Doe', null, 'Research Scientist', '']],
    ['6.6.2, a role where there is no title', card('FN:Jane Doe', 'ROLE:Project Leader'), ['Jane Doe', null, 'Project Leader', '']],
    ['6.6.4, an organisation with its units', card('FN:Jane Doe', 'ORG:ABC\\, Inc.;North American Division;Marketing'), ['Jane Doe', null, '', 'ABC, Inc.']],
    ['3.2, a folded line', card('FN:Jane', '  Doe', 'NOTE:This is a long descrip', ' tion that exists o', ' n a long line.'), ['Jane Doe', null, '', '']],
    ['3.3, a group before the name of a property', card('FN:Jane Doe', 'item1.EMAIL:jane_doe@example.com', 'item1.X-LABEL:x'), ['Jane Doe', 'jane_doe@example.com', '', '']],
  ])('%s', (_, text, person) => {
    expect(read(text)).toEqual([person]);
  });
  it('of 3.0, with a picture, several in a file, and each address once', () => {
    const old = ['BEGIN:VCARD', 'VERSION:3.0', 'N:Osei;Bram;;;', 'FN:Bram Osei', 'EMAIL;type=INTERNET;type=pref:bram@pellyard.example', `PHOTO;ENCODING=b;TYPE=JPEG:${'A'.repeat(5000)}`, 'END:VCARD'].join('\n');
    const text = `${old}\n${card('FN:Ruth Adair', 'EMAIL:ruth@pellyard.example')}${old}`;
    expect(read(text)).toEqual([
      ['Bram Osei', 'bram@pellyard.example', '', ''],
      ['Ruth Adair', 'ruth@pellyard.example', '', ''],
    ]);
  });
  it('that name nobody are told of by their line, and the others are read', () => {
    const { people, wrong } = readPeopleList(`${card('KIND:group', 'FN:The whole yard')}${card('FN:Ada Lume')}${card('EMAIL:x@example.com')}${card('FN:Mo Lund', 'EMAIL:no address')}BEGIN:VCARD\nFN:cut off`);
    expect(people.map((p) => p.name)).toEqual(['Ada Lume']);
    expect(wrong.map((w) => [w.line, w.why.split(':')[0]])).toEqual([
      [1, 'is a group, and no person'],
      [10, 'has no name in it'],
      [19, 'is no card that can be read'],
      [14, '“no address” is not a mail address'],
    ]);
  });
  it('whatever is in them, nothing is thrown', () => {
    fc.assert(
      fc.property(fc.array(fc.string({ maxLength: 40 }), { maxLength: 8 }), (lines) => {
        readPeopleList(card(...lines));
      }),
      { numRuns: 300 },
    );
  });
});
