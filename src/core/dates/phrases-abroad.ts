import { addDays, addMonths, dayOfWeek, endOfMonth, type IsoDate, makeDate, partsOf } from './calendar.ts';
import { ahead, type DateContext } from './rules.ts';

export type Abroad = 'de' | 'es' | 'fr' | 'pt';

/** The words that phrases of a language are made of. Patterns are parts of regular expressions, in small letters. */
interface Vocabulary {
  dayAfterTomorrow: string;
  /** before a count of units: `in`, `dans` */
  within: string;
  /** between the two counts of a range */
  to: string;
  counts: Record<string, number>;
  units: Record<'working day' | 'day' | 'week' | 'month' | 'year', string>;
  weekdays: string[];
  months: string[];
  endOf: string;
  week: { this: string; next: string };
  month: { this: string; next: string };
  year: { this: string };
  /** `{day}` and `{next}` (next week) in the order the language puts them */
  dayOfNextWeek: string[];
}

const WORDS: Record<Abroad, Vocabulary> = {
  de: {
    dayAfterTomorrow: 'übermorgen',
    within: 'in|innerhalb von|binnen',
    to: 'bis|oder',
    counts: { ein: 1, eine: 1, einem: 1, einer: 1, zwei: 2, drei: 3, vier: 4, fünf: 5, sechs: 6, sieben: 7, acht: 8, neun: 9, zehn: 10, zwölf: 12, vierzehn: 14 },
    units: { 'working day': '(?:arbeits|werk)tage?n?', day: 'tage?n?', week: 'wochen?', month: 'monate?n?', year: 'jahre?n?' },
    weekdays: ['montag', 'dienstag', 'mittwoch', 'donnerstag', 'freitag', 'samstag|sonnabend', 'sonntag'],
    months: ['januar|jänner', 'februar', 'märz', 'april', 'mai', 'juni', 'juli', 'august', 'september', 'oktober', 'november', 'dezember'],
    endOf: '(?:zum )?ende',
    week: { this: '(?:der|dieser) woche', next: '(?:der )?(?:nächste[rn]?|kommende[rn]?) woche' },
    month: { this: '(?:des|dieses|diesen) monats?', next: '(?:des )?nächsten monats?' },
    year: { this: '(?:des|dieses) jahres' },
    dayOfNextWeek: ['{next},? (?:am )?{day}', '{day},? (?:in )?{next}'],
  },
  fr: {
    dayAfterTomorrow: 'après[- ]demain',
    within: "dans|d['’]ici|sous",
    to: 'à|ou',
    counts: { un: 1, une: 1, deux: 2, trois: 3, quatre: 4, cinq: 5, six: 6, sept: 7, huit: 8, neuf: 9, dix: 10, douze: 12, quinze: 15 },
    units: { 'working day': 'jours? ouvr(?:és?|ables?)', day: 'jours?', week: 'semaines?', month: 'mois', year: 'ans?|années?' },
    weekdays: ['lundi', 'mardi', 'mercredi', 'jeudi', 'vendredi', 'samedi', 'dimanche'],
    months: ['janvier', 'février', 'mars', 'avril', 'mai', 'juin', 'juillet', 'août', 'septembre', 'octobre', 'novembre', 'décembre'],
    endOf: '(?:la )?fin(?: de| du)?',
    week: { this: '(?:(?:de )?(?:la|cette) )?semaine', next: '(?:de )?la semaine prochaine' },
    month: { this: '(?:(?:de )?ce )?mois', next: '(?:du )?mois prochain' },
    year: { this: "(?:de )?(?:l['’]|cette )année" },
    dayOfNextWeek: ['{day} (?:de )?{next}', '{next},? {day}'],
  },
  es: {
    dayAfterTomorrow: 'pasado mañana',
    within: 'en|dentro de',
    to: 'a|o',
    counts: { un: 1, una: 1, dos: 2, tres: 3, cuatro: 4, cinco: 5, seis: 6, siete: 7, ocho: 8, nueve: 9, diez: 10, doce: 12, quince: 15 },
    units: { 'working day': 'días? (?:hábil(?:es)?|laborables?)', day: 'días?', week: 'semanas?', month: 'mes(?:es)?', year: 'años?' },
    weekdays: ['lunes', 'martes', 'miércoles|miercoles', 'jueves', 'viernes', 'sábado|sabado', 'domingo'],
    months: ['enero', 'febrero', 'marzo', 'abril', 'mayo', 'junio', 'julio', 'agosto', 'septiembre|setiembre', 'octubre', 'noviembre', 'diciembre'],
    endOf: '(?:a )?(?:el )?fin(?:al|ales|es)? de',
    week: { this: '(?:la |esta )?semana', next: '(?:la )?(?:semana que viene|próxima semana|semana próxima)' },
    month: { this: '(?:este )?mes', next: '(?:el )?(?:mes que viene|próximo mes|mes próximo)' },
    year: { this: '(?:este )?año' },
    dayOfNextWeek: ['{day} de {next}', '{next},? (?:el )?{day}'],
  },
  pt: {
    dayAfterTomorrow: 'depois de amanhã',
    within: 'em|dentro de|daqui a',
    to: 'a|ou',
    counts: { um: 1, uma: 1, dois: 2, duas: 2, três: 3, quatro: 4, cinco: 5, seis: 6, sete: 7, oito: 8, nove: 9, dez: 10, doze: 12, quinze: 15 },
    units: { 'working day': 'dias? úte?i[sl]', day: 'dias?', week: 'semanas?', month: 'mês|meses', year: 'anos?' },
    weekdays: ['segunda(?:-feira)?', 'terça(?:-feira)?', 'quarta(?:-feira)?', 'quinta(?:-feira)?', 'sexta(?:-feira)?', 'sábado', 'domingo'],
    months: ['janeiro', 'fevereiro', 'março', 'abril', 'maio', 'junho', 'julho', 'agosto', 'setembro', 'outubro', 'novembro', 'dezembro'],
    endOf: '(?:o |ao |no )?(?:fim|final|finais) d[eao]',
    week: { this: '(?:esta )?semana', next: '(?:a )?(?:próxima semana|semana que vem|semana próxima)' },
    month: { this: '(?:este )?mês', next: '(?:o )?(?:próximo mês|mês que vem)' },
    year: { this: '(?:este )?ano' },
    dayOfNextWeek: ['{day} d[ae] {next}', 'n?{next},? (?:na )?{day}'],
  },
};

interface Rule {
  pattern: RegExp;
  resolve(groups: Record<string, string | undefined>, context: DateContext): IsoDate | null;
}

const rulesOf = new Map<Abroad, Rule[]>();

/** A language's phrases that chrono-node does not know, or reads as less than they say. Meanings are those of docs/dates.md. */
export function phrasesOf(language: Abroad): readonly Rule[] {
  const known = rulesOf.get(language);
  if (known) return known;
  const w = WORDS[language];
  const rule = (pattern: string, resolve: Rule['resolve']): Rule => ({ pattern: new RegExp(`(?<![\\p{L}\\p{N}])(?:${pattern})(?![\\p{L}\\p{N}])`, 'giu'), resolve });
  const count = `(?:${Object.keys(w.counts).join('|')}|\\d{1,3})`;
  const units = Object.entries(w.units).map(([unit, words]) => [unit, new RegExp(`^(?:${words})$`, 'iu')] as const);
  const day = `(?<day>${w.weekdays.join('|')})`;
  const place = (names: string[], name: string) => names.findIndex((n) => new RegExp(`^(?:${n})$`, 'iu').test(name)) + 1;
  const monthEnd = (name: string, c: DateContext) => {
    const [month, now] = [place(w.months, name), partsOf(c.date)];
    return endOfMonth(makeDate(month < now.month ? now.year + 1 : now.year, month, 1)!);
  };
  const rules = [
    rule(w.dayAfterTomorrow, (_, c) => addDays(c.date, 2)),
    rule(`(?:${w.within}) (?:${count} (?:${w.to}) )?(?<count>${count}) (?<unit>${Object.values(w.units).join('|')})`, (g, c) => {
      const unit = units.find(([, words]) => words.test(g.unit!))?.[0];
      return ahead(String(w.counts[g.count!.toLowerCase()] ?? g.count), unit, c.date);
    }),
    ...w.dayOfNextWeek.map((order) => rule(order.replace('{day}', day).replace('{next}', w.week.next), (g, c) => dayOfWeek(c.date, place(w.weekdays, g.day!), 1))),
    rule(`${w.endOf} ${w.week.next}`, (_, c) => dayOfWeek(c.date, 5, 1)),
    rule(`${w.endOf} ${w.week.this}`, (_, c) => dayOfWeek(c.date, 5)),
    rule(`${w.endOf} ${w.month.next}`, (_, c) => endOfMonth(addMonths(`${c.date.slice(0, 8)}01`, 1))),
    rule(`${w.endOf} ${w.month.this}`, (_, c) => endOfMonth(c.date)),
    rule(`${w.endOf} ${w.year.this}`, (_, c) => `${c.date.slice(0, 4)}-12-31`),
    rule(`${w.endOf} (?<month>${w.months.join('|')})`, (g, c) => monthEnd(g.month!, c)),
    rule(w.week.next, (_, c) => dayOfWeek(c.date, 5, 1)),
  ];
  if (language === 'de') {
    rules.push(
      rule(`(?:(?:${w.weekdays.join('|')}|mo|di|mi|do|fr|sa|so)\\.?,? (?:(?:den|dem) )?)?(?<nth>\\d{1,2})\\. ?(?<month>\\d{1,2})\\.(?<year>20\\d\\d|\\d\\d(?![\\d:.]))?`, (g, c) => {
        const year = g.year ? Number(g.year.length === 2 ? `20${g.year}` : g.year) : partsOf(c.date).year;
        const found = makeDate(year, Number(g.month), Number(g.nth));
        return found && !g.year && found < c.date ? makeDate(year + 1, Number(g.month), Number(g.nth)) : found;
      }),
    );
  }
  rulesOf.set(language, rules);
  return rules;
}
