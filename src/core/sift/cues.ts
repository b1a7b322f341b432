/**
 * What a unit's words do: the speech acts and turns of phrase the quick reader looks for. Each is a row of data, a name
 * that weights are learned for, what it means, and the words that show it. None decides anything by itself.
 * The acts follow Searle's division (commissives, directives, assertives) as far as meetings need it; the phrases are
 * common English of meetings, collected by hand.
 *
 * Words are matched in lower case with straight apostrophes, and also where captions leave the apostrophe out.
 */
export interface Cue {
  name: string;
  means: string;
  pattern: RegExp;
}

/** Letters and digits of the languages names come from; a plain class, since these patterns run over every line. */
const LETTER = '[a-z0-9\\u00c0-\\u024f]';
const cue = (name: string, means: string, pattern: string): Cue => ({ name, means, pattern: new RegExp(`(?<!${LETTER})(?:${pattern})(?!${LETTER})`) });

const I_WILL = `i'?ll|ill|i will|i shall|i'?m going to|i'?m gonna|i am going to`;
const DOING =
  '(?:do|send|get|write|make|ask|check|ring|call|mail|email|put|draft|find|look|talk|speak|chase|bring|book|order|prepare|finish|fix|update|share|set|take|have|give|try|see|phone|text|tell|let|sort|come|go|run|work|start|add|move|pick|print|test|build|pay|sign|read|collect|arrange|confirm|circulate|post|drop|handle|organise|organize)';

export const CUES: readonly Cue[] = [
  // taking on
  cue('will-do', 'the speaker says they will do something', `(?:${I_WILL})(?: just| also| then| have to| try and| try to| go and| be)? ?${DOING}?`),
  cue('will-verb', 'the speaker says they will, with a verb of work', `(?:${I_WILL})(?: just| also| then| have to| try and| try to| go and)? ${DOING}`),
  cue('leave-me', 'volunteering without a verb of work', `leave (?:it|that|this|him|her|them)(?: all)? (?:with|to) me|that'?s (?:me|mine|on me|my job)|on me|i'?ve got (?:that|it|this)|i'?m on it|mine|i'?ll take (?:that|it|this)|count me in|i'?d better|me me|i can take|give (?:it|that|this) to me|i'?m doing`),
  cue('i-can', 'the speaker offers', `i can|i could|let me|i'?d be happy|happy to|i don'?t mind|shall i|should i|do you want me|want me to|i might`),
  cue('i-must', 'the speaker is obliged', `i have to|i'?ve to|i'?ve got to|i gotta|i need to|i must|i should|i owe|i ought|i'?m to|i'?ve promised|i promised|i undertook|i still have to|i want to`),
  cue('we-will', 'the group says it will', `we'?ll|we will|we shall|we'?re going to|we have to|we need to|we must|we should|we ought`),
  cue('you-will', 'the listener gets a promise of delivery', `you'?ll have|you have it|you'?ll get|you'?ll see|you get it|you'?ll be|it'?ll be (?:there|with|in|done)|it will be (?:there|with|in|done|round)|in your (?:inbox|hands?)|on your (?:desk|table)`),
  // asking and assigning
  cue('request', 'asks the listener to do something', `can you|could you|would you|will you|can u|would you mind|please|pls|plz|do you think you could|can we get|can somebody|can someone|could somebody|could someone|are you able|may i ask`),
  cue('you-do', 'tells the listener to do something', `you (?:have to|need to|should|must|do|make|take|send|ask|give|write|get|ring|call|bring|could|can)|you'?ll (?:have to|need to|do|send|ask|write|get|ring|call|bring|take)|you'?re (?:doing|on|going)`),
  cue(
    'assign',
    'a name or third person is given work',
    `is to|are to|was to|will|to (?:send|get|write|make|ask|check|ring|call|mail|email|put|draft|find|look|talk|speak|chase|bring|book|order|prepare|finish|fix|update|share|circulate|confirm|arrange|obtain|supply|provide|report|inform|issue|submit)|has to|have to|needs to|shall|must|undertook|undertakes|agreed to|offered to|volunteered|promised|said (?:he|she|they)'?(?:d| would)|was asked|is asked|takes|does`,
  ),
  cue('obligation', 'something has to be done, by nobody named', `(?:needs?|has|have|got|gotta|ought) (?:to be|doing|to get)|somebody|someone|to be done|should be|must be|is needed|are needed|want(?:s|ed)? doing`),
  cue('between', 'a joint job', `between (?:us|them|the two)|together|the two of (?:us|you|them)|both of (?:us|you|them)|we'?ll do it`),
  // answering
  cue('accept', 'says yes', `yes|yeah|yep|yup|ya|ja|ok|okay|sure|fine|will do|of course|done deal|no problem|no bother|no worries|no drama|gladly|can do|righto|right you are|alright|all right|deal|certainly|absolutely|happy with|works for me|aye|on it|understood|got it|noted|👍`),
  cue('refuse', 'says no or takes back', `no|nope|nah|don'?t|do not|not me|can'?t|cannot|won'?t|leave it|forget it|scrap that|scratch that|never ?mind|no need|not needed|needn'?t|rather not|i'?d rather|not yet|not today|not now|drop it|thank you but`),
  cue('retract', 'takes back what was said', `scrap|scratch that|forget|never ?mind|no need|needn'?t|don'?t bother|instead|actually no|take that back|not any ?more|no longer|skip (?:it|that)|leave it|don'?t call|stand down|strike that|ignore`),
  cue('thanks', 'thanks or courtesy', `thank you|thanks|cheers|lovely|great|perfect|brilliant|good|excellent|bless you|super|superb|wonderful|nice`),
  // mood and time of the verb
  cue('hypothetical', 'an idea that is not meant', `could|would|might|what if|if we|if i|if you|in theory|suppose|imagine|wish|maybe|perhaps|would have|one could|in a perfect world|i'?d`),
  cue('joke', 'said in fun', `haha|ha|lol|joke|joking|kidding|murder|dragons?|god|hell|bloody|😄|😂|🤣|😬`),
  cue('habit', 'how things usually go', `always|usually|every|never|normally|as usual|as ever|tend to|each week|once a|on (?:mondays|tuesdays|wednesdays|thursdays|fridays)`),
  cue('on-the-spot', 'done there and then', `let me (?:share|find|see|check|just|look|write|open)|sharing|share my screen|one sec|one second|hang on|hold on|right now|as we speak|just sent|just now|there|i'?m (?:sending|forwarding|sharing|messaging|typing|writing)|gone|bear with me|wait`),
  cue(
    'past',
    'reports what happened',
    `was|were|did|went|had|came|got|sent|said|told|rang|called|wrote|made|took|put|gave|found|asked|spoke|finished|signed|arrived|turned|ran|has been|have been|it'?s been|'?ve (?:done|sent|had|got|put|made|been|seen|finished)|yesterday|last (?:week|time|night|month|monday|tuesday|wednesday|thursday|friday)|already`,
  ),
  // decisions
  cue(
    'decide',
    'settles something',
    `agreed|decided|decision|resolved|settled|that'?s (?:it|settled|decided|that)|then (?:it'?s|it is|we)|so (?:we|it'?s|that'?s|no|it is)|let'?s|we'?re (?:going|doing|not|having|keeping|sticking)|we (?:go|keep|take|do|stay|drop|use|don'?t)|go with|going with|stick with|stays?|it is|final|approved|accepted|carried|unanimous|signed off|that is how|from now on|won'?t be`,
  ),
  cue(
    'consent',
    'asks whether anyone is against',
    `anyone against|any objections?|objections|everyone (?:ok|okay|happy|fine)|everybody (?:ok|okay|happy|fine)|all in favou?r|hands up|agreed\\?|happy with that|anybody (?:against|unhappy)|anyone unhappy|no objections?|nobody (?:against|objected|minds)|fine (?:by|with|for) (?:me|us|everybody|everyone)|works for me|me too|seconded|i can live with|votes?|thumbs`,
  ),
  cue(
    'put-off',
    'is not settled now',
    `park|parked|not today|later|next time|come back to|for now|open|leave it open|stays open|on the list|not (?:yet )?decided|wait (?:for|until)|when (?:we have|the numbers)|not going to (?:decide|crack)|another day|don'?t know yet|to be decided|tbd|tbc|undecided|unresolved|no conclusion`,
  ),
  // questions
  cue('wh', 'begins with a question word', `who|what|when|where|why|how|which|whether|is it|are we|do we|does it|does anyone|can we|should we|is there|are there|what about|who'?s`),
  cue('unknown', 'nobody knows', `don'?t know|no idea|nobody knows?|not sure|no clue|unclear|who knows|couldn'?t (?:say|tell)|can'?t (?:say|tell)|hard to say|i'?d have to look|good question|can'?t answer|not answered|no answer|nobody (?:could|had)|remains|no name|wondered|not known|question`),
  // news of what was open
  cue(
    'done',
    'says something is done',
    `done|finished|sent|complete|completed|closed|in the (?:folder|post|system)|went (?:out|in|off|up|round|through)|gone|signed|delivered|arrived|booked|ready|sorted|fixed|uploaded|submitted|paid|it'?s in|came|has (?:come|gone|been)|have (?:come|gone|been)|tick|struck off|received|put right|is (?:in|up|out|there|here)|landed|handed`,
  ),
  cue('slip', 'says something is later than it was', `moved?|instead|push(?:ed)?|slip(?:ped|s)?|delay(?:ed)?|late|more time|another week|postponed?|make it|call it|until|till|give me|can i have|could i have|extension|won'?t make|not before|earliest|rather than|new date|shift(?:ed)?|put back`),
  cue('stuck', 'says something cannot go on', `stuck|blocked|waiting|wait|can'?t (?:go on|move|start|do|get)|held up|depends|until (?:he|she|they|we|the)|hasn'?t (?:come|answered|replied|sent)|no (?:answer|reply|word)|still no|nothing (?:back|yet|came)|without|on hold|withheld|pending`),
  cue('going', 'says something is under way', `still|on it|working on|half|nearly|almost|in progress|under way|underway|so far|as planned|on track|as agreed|stands|on course|going (?:well|fine)|halfway|started|not yet|yet|coming`),
  cue('dropped', 'says something is no longer wanted', `not needed|no longer|no need|drop(?:ped)?|off the list|forget|cancelled|canceled|obsolete|scrapped?|overtaken|don'?t need|needn'?t|won'?t be needed|x`),
  cue('handed', 'says somebody else has it', `hand(?:ed)? over|taking over|took over|instead of|off (?:him|her|you|me|them)|(?:he|she|they)'?ll do it|swap|pass(?:ed)? (?:it )?(?:on )?to|on (?:his|her|my|your|their) own|give (?:it|that) to|take it off`),
  cue('late', 'asks after something promised', `where (?:is|are|'?s|did)|what about|how far|how'?s|any news|did you|have you|you owe|you were|was supposed|were supposed|supposed to|was to|promised|last (?:time|week)|how did|is that`),
  // who is spoken to
  cue('we', 'speaks for the group', `we|us|our`),
  cue('i', 'speaks of oneself', `i|me|my|i'?m|i'?ve|i'?d|i'?ll`),
  cue('you', 'speaks to somebody', `you|your|u|you'?re|you'?ve|ye|youse`),
  cue('third', 'speaks of somebody else', `he|she|they|him|her|them|his|their`),
  cue('next-topic', 'goes on to something else', `next|okay so|right|anything else|moving on|other thing|one more|last thing|item|aob|then the|and the`),
];

const ARROW = /(?:->|→|=>)/;
const MARKS: readonly [string, RegExp][] = [
  ['mark:arrow', ARROW],
  ['mark:at-name', /(?:^|\s)@\p{L}/u],
  ['mark:bang', /!!/],
  ['mark:bang-start', /^\s*!!/],
  ['mark:arrow-start', /^\s*(?:->|→|=>)/],
  ['mark:ask-start', /^\s*\?/],
  ['mark:ask-inside', /\s\?\s/],
  ['mark:ask', /\?\s*$/],
  ['mark:ask-any', /\?/],
  ['mark:shout', /!\s*$/],
  ['mark:bracket', /^\s*\[.*\]\s*$/],
  ['mark:initials-end', /\([A-Z]{2,3}(?:\s?[/&,+]\s?[A-Z]{2,3})*\)\s*\.?$/],
  ['mark:label', /^(?:action|ap|ai|decision|decided|question|open|todo|to do|resolved|agreed|beschluss)\b\s*[:(]/i],
  ['mark:resolved', /\bresolved\b/i],
  ['mark:dash-end', /[-–—,]\s*$|\p{Ll}$/u],
  ['mark:quote', /["“]/],
  ['mark:digit', /\d/],
];

/** Names of the cues and marks that a unit shows. */
export function cuesOf(text: string): string[] {
  const low = text.length > 4000 ? text.slice(0, 4000).toLowerCase() : text.toLowerCase();
  const plain = low.replace(/[’‘]/g, "'");
  const out: string[] = [];
  for (const c of CUES) if (c.pattern.test(plain)) out.push(c.name);
  for (const [name, pattern] of MARKS) if (pattern.test(text)) out.push(name);
  return out;
}
