import type { UpdateKind } from '../src/core/sift/find.ts';

/**
 * What Ines took out of each record of the demo, with the words it rests on. Dates are phrases, read against the day
 * of the meeting as any other; days are counted from the day the demo is loaded.
 */
export interface Taken {
  kind: 'action' | 'decision' | 'question' | 'update' | 'passed';
  /** name under which later meetings speak of it */
  key?: string;
  of?: string;
  text?: string;
  owner?: string[];
  due?: string;
  news?: UpdateKind;
  quote: string;
}

export interface DemoMeeting {
  file: string | null;
  series: 'works' | 'steering' | null;
  project?: string;
  title?: string;
  /** days before today; negative for days to come */
  ago: number;
  time: string;
  minutes: number;
  place?: string;
  there: string[];
  absent?: string[];
  author?: string;
  letter?: boolean;
  taken: Taken[] | null;
}

const WORKS = ['bram', 'ruth', 'jonas', 'dele', 'wim', 'tove', 'kit', 'ines'];

export const STORY: readonly DemoMeeting[] = [
  {
    file: 'works-1.vtt',
    series: 'works',
    ago: 35,
    time: '10:00',
    minutes: 62,
    there: WORKS,
    absent: ['sam'],
    letter: true,
    taken: [
      { kind: 'action', key: 'weights', text: 'Signed weights of everything taken out of Dunlin, to Ruth', owner: ['bram'], due: 'by the end of next week', quote: "You'll get the weights of everything we take out, signed, by the end of next week." },
      { kind: 'action', key: 'plinth', text: 'Transformer plinth poured at Kelda Point', owner: ['dele'], due: '+15', quote: 'Two weeks for it, so you have the plinth by the' },
      { kind: 'action', key: 'permit', text: 'Permit for the cable trench from the Board', owner: ['dele'], due: 'Monday', quote: "I'll put the papers in to the Board on Monday." },
      { kind: 'decision', text: 'The cable trunk runs on the starboard side', quote: 'Then the trunk runs on the starboard side. Agreed.' },
      { kind: 'action', key: 'trays', text: 'Cable-tray drawings for deck two', owner: ['yusuf'], due: 'end of the month', quote: 'Then Yusuf can do the cable-tray drawings for deck two. End of the month' },
      { kind: 'action', key: 'corner', text: 'Clear a dry corner of the shed for the cells', owner: ['wim'], due: 'by Friday', quote: "The shed needs a dry corner, I'll clear one by Friday." },
      { kind: 'question', text: 'Is the night crew paid for the training days?', quote: 'does the night crew get paid for the training days?' },
    ],
  },
  {
    file: 'steering-1.md',
    series: 'steering',
    ago: 33,
    time: '14:00',
    minutes: 55,
    there: ['hanne', 'petra', 'sam', 'ines'],
    author: 'ines',
    letter: true,
    taken: [
      { kind: 'action', key: 'cost', text: 'Cost to finish, as of the end of the month', owner: ['petra'], due: 'in four weeks', quote: 'Petra is to bring the cost to finish' },
      { kind: 'decision', text: 'The contingency stays untouched until the first ferry has sailed', quote: 'that the contingency stays untouched until the first ferry has sailed' },
      { kind: 'action', key: 'timetable', text: 'Timetable with nine-minute charging stops', owner: ['sam'], due: '+40', quote: 'He will draw up a timetable with nine-minute stops' },
      { kind: 'question', text: 'Are passengers told before the summer?', quote: 'whether passengers would have to be told before the summer' },
      { kind: 'action', key: 'board', text: 'Speak to the harbour board about the night berths', owner: ['hanne'], due: 'by the end of next week', quote: 'Hanne undertook to speak to the harbour board' },
    ],
  },
  {
    file: 'works-2.txt',
    series: 'works',
    ago: 28,
    time: '10:00',
    minutes: 48,
    there: ['bram', 'dele', 'wim', 'sam', 'jonas', 'kit', 'ines'],
    absent: ['ruth', 'tove'],
    letter: true,
    taken: [
      { kind: 'update', of: 'weights', news: 'progress', quote: 'The weights are half done.' },
      { kind: 'update', of: 'permit', news: 'blocked', quote: 'They sit once a month, so now we wait for them.' },
      { kind: 'update', of: 'corner', news: 'done', quote: 'The dry corner is cleared' },
      { kind: 'action', key: 'berths', text: 'Berth plan for night charging at Marrow Quay', owner: ['sam'], due: 'in two weeks', quote: 'Give me two weeks, it touches three timetables.' },
      { kind: 'action', key: 'factory', text: 'Fix a day to witness the switchboard factory test', owner: ['jonas'], due: 'by next Thursday', quote: "I'd better go myself, I'll fix a day with them by next Thursday." },
      { kind: 'action', key: 'training', text: 'First draft of the training plan for the Dunlin crews', owner: ['kit'], due: 'in a week', quote: 'First draft for the next meeting' },
      { kind: 'decision', text: 'Four crews, not five', quote: 'Four crews, not five. That is decided since this morning.' },
      { kind: 'question', text: 'Does the hoist need a new certificate before the port diesel is lifted?', quote: 'Does the hoist want a new certificate before we lift the port diesel?' },
      { kind: 'action', key: 'askpetra', text: 'Ask Petra for the cost to finish', owner: ['ines'], due: 'by the end of the month', quote: "I'll ask Petra for the cost to finish myself" },
    ],
  },
  {
    file: 'works-3.md',
    series: 'works',
    ago: 21,
    time: '10:00',
    minutes: 51,
    there: ['bram', 'ruth', 'jonas', 'dele', 'kit', 'wim', 'ines'],
    absent: ['tove', 'sam'],
    author: 'ines',
    letter: true,
    taken: [
      { kind: 'update', of: 'weights', news: 'moved', due: '+8', quote: 'He needs until' },
      { kind: 'update', of: 'training', news: 'done', quote: 'Training plan: Kit brought it' },
      { kind: 'update', of: 'plinth', news: 'moved', due: '+16', quote: 'the formwork came without its anchors, so not this week' },
      { kind: 'update', of: 'trays', news: 'progress', quote: 'Yusuf has started, no change' },
      { kind: 'decision', text: 'Fire damper at frame 14, on both sides', quote: 'Fire damper goes in at frame 14, both sides' },
      { kind: 'action', key: 'fireplan', text: 'Fire plan, sheet 3, redrawn', owner: ['ruth'], due: '+23', quote: 'Ruth: fire plan, sheet 3, redrawn' },
      { kind: 'action', key: 'dampers', text: 'Price for the two dampers from the maker', owner: ['jonas'], due: 'by Friday', quote: 'Jonas: price for the two dampers from the maker, by Friday' },
      { kind: 'action', key: 'hoist', text: 'Date for the hoist certificate from the inspectorate', owner: ['bram'], quote: 'Bram asks the inspectorate for a date' },
      { kind: 'action', key: 'diesel', text: 'Lift the port diesel out of Dunlin', owner: ['bram'], due: '+22', quote: 'before the port diesel is lifted' },
      { kind: 'question', text: 'Who pays the second week on the slip if the diesel is late?', quote: 'who pays the second week on the slip' },
      { kind: 'passed', text: 'Change the heater in the shed', quote: 'heater in the shed trips the fuse' },
    ],
  },
  {
    file: 'works-4.vtt',
    series: 'works',
    ago: 14,
    time: '10:00',
    minutes: 66,
    there: ['bram', 'ruth', 'jonas', 'sam', 'tove', 'dele', 'kit', 'ines'],
    absent: ['wim'],
    letter: true,
    taken: [
      { kind: 'update', of: 'weights', news: 'moved', due: 'next Wednesday', quote: 'It stays with me, you have it next week, Wednesday.' },
      { kind: 'update', of: 'factory', news: 'done', quote: 'Switchboard test is fixed' },
      { kind: 'update', of: 'dampers', news: 'done', quote: 'The dampers cost eleven hundred for the pair' },
      { kind: 'update', of: 'berths', news: 'moved', due: 'end of next week', quote: "End of next week. I'll not promise earlier." },
      { kind: 'action', key: 'spares', text: 'Price for twelve spare cells', owner: ['tove'], due: 'by next Friday', quote: "You asked for twelve spare cells, I'll have the price for you by next Friday." },
      { kind: 'action', key: 'noise', text: 'Note on the noise for the works council', owner: ['ines'], due: 'tomorrow', quote: "I owe the works council a note on the noise, I'll write that tomorrow." },
      { kind: 'update', of: 'plinth', news: 'progress', quote: 'the anchors come on Tuesday, so the plinth keeps its date' },
      { kind: 'action', key: 'survey', text: 'Second noise survey booked', owner: ['ruth'], due: '+14', quote: "I'd like the second one booked before the leaves are out" },
      { kind: 'decision', text: 'No weekend training', quote: "No weekend training, then. That's settled." },
      { kind: 'passed', text: 'Train at weekends', quote: 'We could train at weekends.' },
    ],
  },
  {
    file: 'works-5.txt',
    series: 'works',
    ago: 7,
    time: '10:00',
    minutes: 44,
    there: ['bram', 'ruth', 'dele', 'yusuf', 'jonas', 'sam', 'wim', 'tove', 'kit', 'ines'],
    taken: [
      { kind: 'update', of: 'weights', news: 'done', quote: 'The weights are in, all of them, signed by the foreman' },
      { kind: 'update', of: 'plinth', news: 'moved', due: 'next Friday', quote: 'We poured the first half and then it rained into the second. Call it next Friday.' },
      { kind: 'update', of: 'trays', news: 'moved', due: 'in a week', quote: 'Jonas sent me back two runs, I need a week more.' },
      { kind: 'update', of: 'berths', news: 'blocked', quote: 'the harbour office must stamp it and they are slow. I wait for them.' },
      { kind: 'update', of: 'spares', news: 'moved', due: 'Tuesday', quote: "the price is with our own finance, I'll bring it on Tuesday" },
      { kind: 'action', key: 'secondweek', text: 'Ask Hanne for a second training week', owner: ['ines'], due: 'until Friday', quote: 'I will, I see her in an hour' },
      { kind: 'action', key: 'inclining', text: 'Propose two dates for the inclining test', owner: ['ruth'], due: 'by the end of next week', quote: 'The inclining test wants calm water and a date.' },
      { kind: 'action', key: 'welder', text: 'Find a second welder for frame 14', owner: [], quote: 'We need a second welder for frame 14' },
      { kind: 'decision', text: 'Both plugs stay at Kelda until the trial is over', quote: 'We keep both plugs at Kelda, the old and the new, until the trial is over.' },
    ],
  },
  {
    file: 'steering-2.txt',
    series: 'steering',
    ago: 5,
    time: '14:00',
    minutes: 40,
    there: ['hanne', 'petra', 'sam', 'ines'],
    author: 'ines',
    letter: true,
    taken: [
      { kind: 'update', of: 'board', news: 'done', quote: 'Hanne has spoken to the harbour board about the night berths' },
      { kind: 'action', key: 'boardletter', text: 'Letter to the harbour board with Sam’s drawing of the night berths', owner: ['ines'], due: 'by the end of the week', quote: "I'll write the letter to the harbour board" },
      { kind: 'update', of: 'cost', news: 'moved', due: 'next Thursday', quote: 'she needs until next Thursday' },
      { kind: 'decision', text: 'The second set of cells is ordered now and not in the spring', quote: 'We decided to order the second set of cells now' },
      { kind: 'question', text: 'Does the insurance cover the cells while they lie in the shed?', quote: 'whether the insurance covers the cells' },
      { kind: 'update', of: 'timetable', news: 'progress', quote: "Sam's timetable keeps its date" },
      { kind: 'passed', text: 'Look at leasing', quote: 'Petra said she could look at leasing too' },
    ],
  },
  {
    file: 'yard-walk.srt',
    series: null,
    title: 'Yard walk with Bram',
    ago: 1,
    time: '13:30',
    minutes: 25,
    place: 'Pell Yard, slip 2',
    there: ['bram', 'ines'],
    taken: [
      { kind: 'update', of: 'hoist', news: 'done', quote: 'The hoist certificate came through' },
      { kind: 'action', key: 'maker', text: 'Ring the maker about the fire damper', owner: ['ines'], due: 'tomorrow', quote: "I'll ring them tomorrow morning." },
      { kind: 'action', key: 'photos', text: 'Photographs of the corroded engine seat', owner: ['bram'], due: 'by Friday', quote: "I'll send you the photographs of the seat" },
      { kind: 'decision', text: 'The diesel is lifted with the yard’s own crane', quote: 'With our own. Decided.' },
    ],
  },
  { file: 'works-6.vtt', series: 'works', ago: 0, time: '10:00', minutes: 64, there: ['tove', 'wim', 'ruth', 'bram', 'jonas', 'dele', 'yusuf', 'kit', 'ines'], absent: ['sam'], taken: null },
  { file: null, series: 'works', ago: -7, time: '10:00', minutes: 60, there: [], taken: null },
  { file: null, series: 'works', ago: -14, time: '10:00', minutes: 60, there: [], taken: null },
  { file: null, series: 'steering', ago: -23, time: '14:00', minutes: 60, there: [], taken: null },
  {
    file: 'tide-tables-1.md',
    series: null,
    project: 'tide-tables',
    title: 'Paper and proofs',
    ago: 6,
    time: '09:00',
    minutes: 35,
    place: 'Sauer Press',
    there: ['olu', 'greta', 'ines'],
    author: 'olu',
    letter: true,
    taken: [
      { kind: 'decision', text: '90 gram paper, not 80', quote: '90 gram it is' },
      { kind: 'action', key: 'columns', text: 'Corrected tide columns to Greta', owner: ['olu'], due: '+10', quote: 'Olu: corrected tide columns to Greta' },
      { kind: 'action', key: 'cover', text: 'Proof of the cover', owner: ['greta'], due: 'next week', quote: 'Greta: proof of the cover, next week' },
      { kind: 'question', text: 'Are the charging stops printed?', quote: 'do we print the charging stops or not' },
    ],
  },
];
