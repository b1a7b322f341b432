/**
 * Whether a word such as “done” in an answer says that it is so. `Nothing has been sent`, `once it is done`, `it was sent
 * back` have the word and say the opposite. What stands in the same clause decides; the patterns are matched in folded
 * text. Common practice of five languages, collected by hand.
 */
const any = (...words: string[]) => new RegExp(`(?<![\\p{L}\\p{N}])(?:${words.join('|')})(?![\\p{L}\\p{N}])`, 'u');

/** Says no to what comes after it in its clause. */
const NO = any(
  'not(?! only)(?! a problem)',
  "\\p{L}{1,12}n[’']t",
  '(?:did|does|is|are|was|were|has|have|had|could|would|should)nt',
  'cannot',
  'never(?! mind)',
  'no(?! (?:problem|worries|trouble|issues?|hitch|sweat|bother|need))(?= \\p{L})',
  'none',
  'nothing(?! (?:wrong|more|else))',
  'nobody',
  'no one',
  'neither',
  'nor',
  'hardly',
  'barely',
  'scarcely',
  'far from',
  'nowhere near',
  'a long way from',
  'fail(?:ed|s|ing)? to',
  'unable to',
  'yet to be',
  'nicht',
  'nichts',
  'kein(?:e[mnrs]?)?',
  'nie(?:mals)?',
  'niemand',
  'weder',
  'kaum',
  'pas',
  'rien',
  'jamais',
  'aucune?',
  'personne',
  'no(?= (?:se|he|ha|han|hemos|esta|estan|fue|lo|la|los|las|me|nos|todo|todos|todas)\\b)',
  'nada',
  'nunca',
  'ningun[ao]?',
  'nadie',
  'tampoco',
  'nao',
  'nenhum[a]?',
  'ninguem',
);

/** Says no to what stands before it: `I have done nothing`, `fait pour rien`. */
const NO_AFTER = /^\s(?:\p{L}{1,30}\s)?(?:nothing|none|nobody|no one|nichts|rien|nada)(?![\p{L}\p{N}])/u;

/** What comes after it is not so, or not yet: a condition, a duty, a wish. */
const NOT_SO_YET = any(
  'if',
  'when',
  'once',
  'as soon as',
  'until',
  'unless',
  'whether',
  'provided',
  'in case',
  '(?:need|needs|needed|has|have|had|ought|supposed|meant|due|want|wants|hope|hoping|try|trying|expect|expects|going|about|waiting|ready|was|were|still) to(?: be| get| have)?',
  'must(?: be)?',
  'would(?: be| have)?',
  'could(?: be| have)',
  'can be',
  'might be',
  'may be',
  'will be',
  'should(?: be| have)?',
  'wenn',
  'sobald',
  'falls',
  'bevor',
  'ob',
  'muss',
  'mussen',
  'sollte?',
  'wurde gern',
  'ware',
  'quand',
  'des que',
  'lorsque',
  'une fois',
  'doit',
  'devrait',
  'devait',
  'il faut',
  'serait',
  "si (?:c[’']est|il|elle|on|le|la|les|tout|el|lo)",
  'cuando',
  'una vez',
  'en cuanto',
  'hay que',
  'tiene que',
  'debe(?:ria)?',
  'seria',
  'quando',
  'assim que',
  'logo que',
  'tem (?:de|que)',
  'deve(?:ria)?',
  'se (?:estiver|for|forem|tiver|der|chegar)',
);

/** It was done, and something went wrong with it. */
const WENT_WRONG = any(
  'sent back',
  'back to (?:us|me)',
  'returned',
  'rejected',
  'refused',
  'turned down',
  'bounced',
  '(?<!nothing )wrong(?:ly)?',
  'broken',
  'damaged',
  'incomplete',
  'by mistake',
  're-?do(?:ne|ing)?',
  'do(?:ne)? (?:it )?(?:again|over)',
  'falsch(?:e[mnrs]?)?',
  'kaputt',
  'beschadigt',
  'zuruckgeschickt',
  'zuruckgekommen',
  'abgelehnt',
  'neu machen',
  'mauvaise?s?',
  'par erreur',
  'casse(?:e|s|es)?',
  'renvoyee?',
  'refusee?',
  'refaire',
  'a refaire',
  'equivocad[ao]',
  'rot[ao]s?',
  'devuelt[ao]',
  'rechazad[ao]',
  'por error',
  'rehacer',
  'errad[ao]',
  'devolvid[ao]',
  'rejeitad[ao]',
  'por engano',
  'refazer',
);

/** Whoever writes so does not know. */
const DOUBT = any(
  'not (?:quite |entirely |really )?(?:sure|certain)',
  'unsure',
  'no idea',
  "(?:don[’']?t|do not) (?:know|think|believe)",
  'doubt',
  'thought',
  'wonder',
  'assume',
  'presume',
  'guess',
  'as far as i know',
  'afaik',
  'apparently',
  'supposedly',
  'hopefully',
  'nicht sicher',
  'weiss? nicht',
  'so ?viel ich weiss?',
  'angeblich',
  'hoffentlich',
  'dachte',
  'pas sure?',
  'sais pas',
  'parait-il',
  'pensais',
  'no (?:se|estoy segur[ao])',
  'creia',
  'pensaba',
  'nao (?:sei|tenho a certeza)',
  'pensava',
  'pensei',
);

/** Where a clause ends: marks, and words after which another side of the matter comes. */
const CLAUSE_END = /[,;:.!?()\n–—]|\s-\s|(?<![\p{L}\p{N}])(?:but|however|though|although|aber|jedoch|mais|cependant|pero|mas|porem|because|weil|denn|parce que|porque)(?![\p{L}\p{N}])/gu;

/** How a word stands in its clause: it is so, it is not, it would be, it is so and went wrong, or nobody knows. */
export type Standing = 'so' | 'not so' | 'not so yet' | 'went wrong' | 'in doubt';

/**
 * @param low folded words of one thing's answer
 * @param word matches what would be said, such as “done”
 * @returns how it stands at its first place where it is so, else at its last one; null where the word is not said
 */
export function standingOf(low: string, word: RegExp): Standing | null {
  let last: Standing | null = null;
  for (const m of low.matchAll(new RegExp(word.source, `${word.flags.replace('g', '')}g`))) {
    const { before, after } = clauseAround(low, m.index, m.index + m[0].length);
    last = standsAs(before, m[0], after);
    if (last === 'so') return WENT_WRONG.test(low) ? 'went wrong' : DOUBT.test(low) ? 'in doubt' : 'so';
  }
  return last;
}

function standsAs(before: string, said: string, after: string): Standing {
  if (DOUBT.test(before) || DOUBT.test(after)) return 'in doubt';
  if (NO.test(before) || NO_AFTER.test(after)) return 'not so';
  if (NOT_SO_YET.test(before)) return 'not so yet';
  return WENT_WRONG.test(before + said + after) ? 'went wrong' : 'so';
}

function clauseAround(low: string, from: number, to: number): { before: string; after: string } {
  let start = 0;
  let end = low.length;
  for (const m of low.matchAll(CLAUSE_END)) {
    if (m.index + m[0].length <= from) start = m.index + m[0].length;
    else if (m.index >= to) {
      end = m.index;
      break;
    }
  }
  return { before: low.slice(start, from), after: low.slice(to, end) };
}
