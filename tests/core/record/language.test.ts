import { describe, expect, it } from 'vitest';
import { annotatedMeetings, rehearsals } from '../../../bench/meetings.ts';
import { readRecord } from '../../../src/core/record/read.ts';

// Universal Declaration of Human Rights, article 1 and 2, in the translations of the United Nations
const ARTICLES = {
  German:
    'Alle Menschen sind frei und gleich an Würde und Rechten geboren. Sie sind mit Vernunft und Gewissen begabt und sollen einander im Geist der Brüderlichkeit begegnen. Jeder hat Anspruch auf die in dieser Erklärung verkündeten Rechte und Freiheiten ohne irgendeinen Unterschied, etwa nach Rasse, Hautfarbe, Geschlecht, Sprache, Religion.',
  French:
    'Tous les êtres humains naissent libres et égaux en dignité et en droits. Ils sont doués de raison et de conscience et doivent agir les uns envers les autres dans un esprit de fraternité. Chacun peut se prévaloir de tous les droits et de toutes les libertés proclamés dans la présente Déclaration, sans distinction aucune.',
  Spanish:
    'Todos los seres humanos nacen libres e iguales en dignidad y derechos y, dotados como están de razón y conciencia, deben comportarse fraternalmente los unos con los otros. Toda persona tiene todos los derechos y libertades proclamados en esta Declaración, sin distinción alguna de raza, color, sexo, idioma, religión.',
};

describe('the language of a record', () => {
  it.each(Object.entries(ARTICLES))('that Sift does not read is said: %s', (language, text) => {
    expect(readRecord(text, 'txt').doubts[0]!.message).toMatch(new RegExp(`looks ${language}.*Sift reads English`));
  });
  it('is not doubted in any annotated record, nor in a short one', () => {
    for (const m of [...annotatedMeetings(), ...rehearsals()])
      expect(
        m.input.record.doubts.filter((d) => d.message.includes('looks ')),
        m.name,
      ).toEqual([]);
    expect(readRecord('Bitte bis Freitag schicken.', 'txt').doubts).toEqual([]);
  });
});
