import type { UpdateKind } from '../src/core/sift/find.ts';
import type { Prepared, PreparedGist } from '../standins/model/prepared.ts';
import { PEOPLE } from './people.ts';
import { STORY } from './story.ts';

/** What a careful reader takes from the works call of today, which nobody has sifted yet. */
const WORKS_CALL: readonly Prepared[] = [
  { kind: 'action', title: 'Sign the carrier’s papers in the new form', quotes: ['Send me the form and I’ll sign it before Friday', 'the carrier wants the papers in the new form, signed by a receiver on your side'], owner: ['Wim Daal'], ownerWords: 'I’ll sign it', dateWords: 'before Friday' },
  { kind: 'action', title: 'Redraw the outline', quotes: ['Then I redraw the outline, that’s a day’s work. You’ll have it on Tuesday'], owner: ['Jonas Pike'], ownerWords: 'I redraw', dateWords: 'on Tuesday' },
  { kind: 'action', title: 'Tell Kit that the training day moves', quotes: ['Somebody has to tell Kit that the training day moves with it'], owner: [], ownerWords: null, dateWords: null },
  { kind: 'action', title: 'Ring the digger people to hold a week', quotes: ['I’ll ring them first thing Monday', 'The digger people hold a week for us without a deposit if they hear from us by Monday'], owner: ['Wim Daal'], ownerWords: 'I’ll ring them', dateWords: 'first thing Monday' },
  { kind: 'action', title: 'Put two stops a day at Kelda on the paper for the steering committee', quotes: ['I put it on the paper for the steering committee by Wednesday', 'Then it’s two stops a day at Kelda'], owner: ['Ines Falk'], ownerWords: 'I put it on the paper', dateWords: 'by Wednesday' },
  { kind: 'decision', title: 'The vent trunk goes aft of the funnel casing', quotes: ['So it goes aft of the funnel casing. That’s settled, unless somebody objects now', 'Fine by the yard'] },
  { kind: 'decision', title: 'Two stops a day at Kelda, and Marrow Quay takes the rest at night', quotes: ['Then it’s two stops a day at Kelda, and Marrow Quay takes the rest at night', 'Anyone against two? No'] },
  { kind: 'question', title: 'Does the plug still reach at low spring tide if the plinth comes up forty centimetres?', quotes: ['Does the plug still reach at low spring tide if the plinth comes up forty centimetres?', 'We park that one until the tide table is out'] },
  { kind: 'update', of: 'Price for twelve spare cells', news: 'done', quotes: ['the price for the spares came yesterday', 'That closes it'] },
  { kind: 'update', of: 'Transformer plinth poured at Kelda Point', news: 'moved', quotes: ['give me until the end of next week', 'The foundation at Kelda Point is not poured'], dateWords: 'until the end of next week' },
  { kind: 'update', of: 'Lift the port diesel out of Dunlin', news: 'done', quotes: ['The old engine on the port side is out since Monday'] },
  { kind: 'update', of: 'Permit for the cable trench from the Board', news: 'blocked', quotes: ['Until they meet again the trench has no permit', 'The Board sat, by the way, and put us off once more'] },
  { kind: 'update', of: 'Cable-tray drawings for deck two', news: 'reassigned', quotes: ['The tray drawings for deck two are with Jonas for his check, so from now on they are his, not mine', 'Yes, give them to me'], owner: ['Jonas Pike'], ownerWords: 'give them to me' },
  { kind: 'update', of: 'Find a second welder for frame 14', news: 'done', quotes: ['I found one, he starts on Monday'] },
];

const nameOf = (id: string) => PEOPLE.find((p) => p.id === id)?.name ?? id;

/** What Ines took out of the other records, as a careful reader would answer it. */
const TAKEN: readonly Prepared[] = STORY.flatMap((m) => {
  const texts = new Map(STORY.flatMap((s) => (s.taken ?? []).flatMap((t) => (t.key && t.text ? [[t.key, t.text] as const] : []))));
  return (m.taken ?? []).flatMap((t): Prepared[] => {
    const dateWords = t.due && /[a-z]/i.test(t.due) ? t.due : null;
    if (t.kind === 'passed') return [];
    if (t.kind === 'update') return [{ kind: 'update', of: texts.get(t.of ?? '') ?? '', news: t.news as UpdateKind, quotes: [t.quote], dateWords, owner: (t.owner ?? []).map(nameOf) }];
    return [{ kind: t.kind, title: t.text ?? '', quotes: [t.quote], owner: (t.owner ?? []).map(nameOf), dateWords }];
  });
});

/** Answers for the demo's records, which the model stand-in gives. */
export const CAREFUL: readonly Prepared[] = [...WORKS_CALL, ...TAKEN];

/** What the works call of today was about, as a careful reader would tell it. */
export const CAREFUL_GIST: readonly PreparedGist[] = [
  {
    brief: [
      { text: 'The vent trunk goes aft of the funnel casing, and charging at Kelda is two stops a day.', quotes: ['So it goes aft of the funnel casing', 'Then it’s two stops a day at Kelda'] },
      { text: 'The foundation at Kelda Point is not poured and needs until the end of next week; the trench still has no permit.', quotes: ['The foundation at Kelda Point is not poured', 'Until they meet again the trench has no permit'] },
    ],
    usual: [
      { text: 'The second lot of cells is packed, and Wim Daal will sign the carrier’s papers in the new form.', quotes: ['The second lot of cells is packed', 'Send me the form and I’ll sign it'] },
      { text: 'The price for the spares came yesterday.', quotes: ['the price for the spares came yesterday'] },
      { text: 'The vent trunk goes aft of the funnel casing, because as drawn it comes up under the bridge wing and Mirela won’t sign that.', quotes: ['The vent trunk as drawn comes up right under the bridge wing'] },
      { text: 'The foundation at Kelda Point is not poured, the ground was too wet, and Dele Marchetti needs until the end of next week.', quotes: ['The foundation at Kelda Point is not poured'] },
      { text: 'Whether the plug still reaches at low spring tide is parked until the tide table is out.', quotes: ['Does the plug still reach at low spring tide', 'We park that one until the tide table is out'] },
      { text: 'The old engine on the port side is out.', quotes: ['The old engine on the port side is out since Monday'] },
      { text: 'Without a permit the digger cannot be booked; its people hold a week without a deposit if they hear by Monday.', quotes: ['without a permit I can’t book the digger', 'The digger people hold a week for us without a deposit'] },
      { text: 'Charging is two stops a day at Kelda, and Marrow Quay takes the rest at night.', quotes: ['Then it’s two stops a day at Kelda'] },
      { text: 'The second welder is found and starts on Monday.', quotes: ['The second welder. I have a cousin', 'I found one, he starts on Monday'] },
    ],
    topics: [
      { name: 'Cells and the carrier’s papers', from: 'The second lot of cells is packed', to: 'That closes it' },
      { name: 'The vent trunk', from: 'The vent trunk as drawn', to: 'Then I redraw the outline' },
      { name: 'Foundation at Kelda Point', from: 'The foundation at Kelda Point is not poured', to: 'We park that one until the tide table is out' },
      { name: 'Permit for the trench', from: 'The Board sat, by the way', to: 'Not a day later' },
      { name: 'Charging stops at Kelda', from: 'About the charging itself', to: 'Hanne will want to see the figure' },
    ],
    ideas: [{ text: 'The vent trunk goes aft of the funnel casing.', quotes: ['So it goes aft of the funnel casing'], sides: [{ side: 'for', quote: 'Fine by the yard' }] }],
    risks: [
      { kind: 'blocker', text: 'The trench has no permit until the Board meets again, and without it the digger cannot be booked.', quotes: ['Until they meet again the trench has no permit'] },
      { kind: 'risk', text: 'Three stops a day at Kelda is one too many for the transformer.', quotes: ['Three stops a day at Kelda is one too many for the transformer'] },
    ],
  },
];
