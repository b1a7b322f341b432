import type { Language } from '../kinds.ts';

/** What a reader's own page says, in the languages letters are written in. */
export interface PageWords {
  for: string;
  things: (n: number) => string;
  asks: (who: string, project: string) => string;
  told: string;
  of: string;
  due: string;
  noDate: string;
  done: string;
  confirm: string;
  still: string;
  newDate: string;
  handOver: string;
  word: string;
  change: string;
  asYouSay: string;
  why: string;
  toWhom: string;
  yourWord: string;
  tell: (who: string, what: string) => string;
  nothing: string;
  also: string;
  until: (day: string) => string;
  letters: string;
  all: string;
  noDigest: string;
  digest: string;
  none: string;
  saidNow: Record<string, string>;
  settled: string;
  notADay: string;
}

export const PAGE_WORDS: Record<Language, PageWords> = {
  en: {
    for: 'for',
    things: (n) => (n === 0 ? 'Nothing is with you' : n === 1 ? 'One thing of yours' : `${n} things of yours`),
    asks: (who, project) => `${who} asks, for ${project}. A tap for each will do.`,
    told: 'told',
    of: 'of',
    due: 'due',
    noDate: 'no date yet',
    done: 'Done',
    confirm: 'It is mine',
    still: 'Still on it',
    newDate: 'New date',
    handOver: 'Hand over',
    word: 'A word',
    change: 'Change',
    asYouSay: 'as you would say it',
    why: 'Why, if you like',
    toWhom: 'To whom',
    yourWord: 'Your word',
    tell: (who, what) => `Tell ${who}: ${what}`,
    nothing: 'Everything that was with you is settled. Thank you.',
    also: 'Also with you',
    until: (day) => `This page is open until ${day}. It shows what is with you and nothing else.`,
    letters: 'Letters to you',
    all: 'as things fall due',
    noDigest: 'as things fall due, but no digest',
    digest: 'once a week',
    none: 'none',
    saidNow: { done: 'done', moved: 'new date', reassigned: 'handed over', progress: 'still on it', confirmed: 'it is yours', question: 'asked', remark: 'said', blocked: 'waiting', dropped: 'dropped', declined: 'not yours' },
    settled: 'taken',
    notADay: 'not a day yet',
  },
  de: {
    for: 'für',
    things: (n) => (n === 0 ? 'Nichts liegt bei Ihnen' : n === 1 ? 'Eine Sache von Ihnen' : `${n} Sachen von Ihnen`),
    asks: (who, project) => `${who} fragt, für ${project}. Ein Tippen je Sache genügt.`,
    told: 'gesagt',
    of: 'von',
    due: 'fällig',
    noDate: 'noch ohne Termin',
    done: 'Erledigt',
    confirm: 'Ist meins',
    still: 'Bin dran',
    newDate: 'Neuer Termin',
    handOver: 'Übergeben',
    word: 'Ein Wort',
    change: 'Ändern',
    asYouSay: 'etwa 14.5. oder 2026-05-14',
    why: 'Warum, wenn Sie mögen',
    toWhom: 'An wen',
    yourWord: 'Ihr Wort',
    tell: (who, what) => `${who} sagen: ${what}`,
    nothing: 'Alles, was bei Ihnen lag, ist geklärt. Danke.',
    also: 'Auch bei Ihnen',
    until: (day) => `Diese Seite ist bis ${day} offen. Sie zeigt, was bei Ihnen liegt, und sonst nichts.`,
    letters: 'Briefe an Sie',
    all: 'wenn etwas fällig wird',
    noDigest: 'wenn etwas fällig wird, ohne Wochenübersicht',
    digest: 'einmal die Woche',
    none: 'keine',
    saidNow: { done: 'erledigt', moved: 'neuer Termin', reassigned: 'übergeben', progress: 'in Arbeit', confirmed: 'liegt bei Ihnen', question: 'gefragt', remark: 'gesagt', blocked: 'wartet', dropped: 'entfällt', declined: 'nicht Ihres' },
    settled: 'übernommen',
    notADay: 'noch kein Tag',
  },
  fr: {
    for: 'pour',
    things: (n) => (n === 0 ? 'Rien n’est chez vous' : n === 1 ? 'Une chose chez vous' : `${n} choses chez vous`),
    asks: (who, project) => `${who} demande, pour ${project}. Un geste par ligne suffit.`,
    told: 'dit',
    of: 'sur',
    due: 'pour le',
    noDate: 'sans date',
    done: 'Fait',
    confirm: 'C’est à moi',
    still: 'En cours',
    newDate: 'Nouvelle date',
    handOver: 'Transmettre',
    word: 'Un mot',
    change: 'Changer',
    asYouSay: 'par exemple 14/5 ou 2026-05-14',
    why: 'Pourquoi, si vous voulez',
    toWhom: 'À qui',
    yourWord: 'Votre mot',
    tell: (who, what) => `Dire à ${who} : ${what}`,
    nothing: 'Tout ce qui était chez vous est réglé. Merci.',
    also: 'Aussi chez vous',
    until: (day) => `Cette page est ouverte jusqu’au ${day}. Elle montre ce qui est chez vous et rien d’autre.`,
    letters: 'Lettres pour vous',
    all: 'à l’échéance',
    noDigest: 'à l’échéance, sans récapitulatif',
    digest: 'une fois par semaine',
    none: 'aucune',
    saidNow: { done: 'fait', moved: 'nouvelle date', reassigned: 'transmis', progress: 'en cours', confirmed: 'à vous', question: 'demandé', remark: 'dit', blocked: 'en attente', dropped: 'abandonné', declined: 'pas à vous' },
    settled: 'pris en compte',
    notADay: 'pas encore un jour',
  },
  es: {
    for: 'para',
    things: (n) => (n === 0 ? 'No tiene nada pendiente' : n === 1 ? 'Una cosa suya' : `${n} cosas suyas`),
    asks: (who, project) => `${who} pregunta, por ${project}. Basta un toque por línea.`,
    told: 'dicho',
    of: 'de',
    due: 'para el',
    noDate: 'sin fecha',
    done: 'Hecho',
    confirm: 'Es mío',
    still: 'En ello',
    newDate: 'Otra fecha',
    handOver: 'Pasar',
    word: 'Unas palabras',
    change: 'Cambiar',
    asYouSay: 'por ejemplo 14/5 o 2026-05-14',
    why: 'Por qué, si quiere',
    toWhom: 'A quién',
    yourWord: 'Sus palabras',
    tell: (who, what) => `Decir a ${who}: ${what}`,
    nothing: 'Todo lo que tenía usted está resuelto. Gracias.',
    also: 'También suyo',
    until: (day) => `Esta página está abierta hasta el ${day}. Muestra lo que tiene usted y nada más.`,
    letters: 'Cartas para usted',
    all: 'cuando vence algo',
    noDigest: 'cuando vence algo, sin resumen semanal',
    digest: 'una vez por semana',
    none: 'ninguna',
    saidNow: { done: 'hecho', moved: 'otra fecha', reassigned: 'pasado', progress: 'en curso', confirmed: 'es suyo', question: 'preguntado', remark: 'dicho', blocked: 'en espera', dropped: 'descartado', declined: 'no es suyo' },
    settled: 'anotado',
    notADay: 'todavía no es un día',
  },
  pt: {
    for: 'para',
    things: (n) => (n === 0 ? 'Nada está consigo' : n === 1 ? 'Uma coisa sua' : `${n} coisas suas`),
    asks: (who, project) => `${who} pergunta, por ${project}. Um toque por linha basta.`,
    told: 'dito',
    of: 'de',
    due: 'até',
    noDate: 'sem data',
    done: 'Feito',
    confirm: 'É comigo',
    still: 'Em curso',
    newDate: 'Outra data',
    handOver: 'Passar',
    word: 'Uma palavra',
    change: 'Mudar',
    asYouSay: 'por exemplo 14/5 ou 2026-05-14',
    why: 'Porquê, se quiser',
    toWhom: 'A quem',
    yourWord: 'A sua palavra',
    tell: (who, what) => `Dizer a ${who}: ${what}`,
    nothing: 'Tudo o que estava consigo está resolvido. Obrigado.',
    also: 'Também consigo',
    until: (day) => `Esta página está aberta até ${day}. Mostra o que está consigo e nada mais.`,
    letters: 'Cartas para si',
    all: 'quando algo vence',
    noDigest: 'quando algo vence, sem resumo semanal',
    digest: 'uma vez por semana',
    none: 'nenhuma',
    saidNow: { done: 'feito', moved: 'outra data', reassigned: 'passado', progress: 'em curso', confirmed: 'é seu', question: 'perguntado', remark: 'dito', blocked: 'à espera', dropped: 'largado', declined: 'não é seu' },
    settled: 'anotado',
    notADay: 'ainda não é um dia',
  },
};
