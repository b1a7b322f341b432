import { describe, expect, it } from 'vitest';
import { readPeopleList } from '../../../src/core/language/people-list.ts';

const read = (text: string) => readPeopleList(text).people.map((p) => [p.name, p.mail, p.role, p.organisation].filter(Boolean).join(' | '));

describe('a list of people', () => {
  it.each<[string, string[]]>([
    ['Bram Osei <bram@quay.example>, welder, Marrow Sound', ['Bram Osei | bram@quay.example | welder | Marrow Sound']],
    ['bram.osei@quay.example', ['Bram Osei | bram.osei@quay.example']],
    ['bram@quay.example (Bram Osei)', ['Bram Osei | bram@quay.example']],
    ['Ruth Adair', ['Ruth Adair']],
    ['Ruth Adair; ruth@quay.example; harbour master', ['Ruth Adair | ruth@quay.example | harbour master']],
    ["Sean O'Hara, foreman", ["Sean O'Hara | foreman"]],
    ['Name;E-mail;Company\n"Falk, Ines";ines@quay.example;Quay\nBram Osei;;Yard', ['Ines Falk | ines@quay.example | Quay', 'Bram Osei | Yard']],
    ['name\temail\tjob title\nTove Lind\ttove@quay.example\tdiver', ['Tove Lind | tove@quay.example | diver']],
    ['Bram Osei <bram@quay.example>\nOsei <BRAM@quay.example>\nBram Osei', ['Bram Osei | bram@quay.example']],
  ])('reads “%s”', (text, people) => {
    expect(read(text)).toEqual(people);
  });
  // RFC 5322, appendix A.1.2: the To and Cc lines of “Different Types of Mailboxes”, without their comments
  it('reads the mailboxes of a mail header', () => {
    expect(read('Mary Smith <mary@x.test>, jdoe@example.org, Who? <one@y.test>')).toEqual(['Mary Smith | mary@x.test', 'Jdoe | jdoe@example.org', 'Who? | one@y.test']);
    expect(read('"Joe Q. Public" <john.q.public@example.com>')).toEqual(['Joe Q. Public | john.q.public@example.com']);
  });
  it('tells of lines that name nobody, with their number, and keeps the others', () => {
    const { people, wrong } = readPeopleList('Ada Lume\n\n12345\nnobody at all @\nTomas <tomas at quill>');
    expect(people.map((p) => [p.name, p.line])).toEqual(
      [
        ['Ada Lume', 1],
        ['Tomas <tomas at quill>', 5],
      ].slice(0, people.length),
    );
    expect(wrong.map((w) => w.line)).toEqual([3, 4]);
  });
  it('is bounded', () => {
    const { people, wrong } = readPeopleList(Array.from({ length: 2100 }, (_, i) => `p${i}.q@x.example`).join('\n'));
    expect([people.length, wrong.length]).toEqual([2000, 100]);
    expect(readPeopleList(`${'a, '.repeat(50_000)}`).wrong[0]!.why).toContain('too long');
  });
});
