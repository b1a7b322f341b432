/** What the blanks of the exchanges are filled with. */

/** Jobs: verb, what it is done to, and what follows. */
const JOBS = `
send|the drawings|to the printer
send|the signed copy|back to the council
ring|the plumber|about the boiler
ring|the harbour office|about the berth
write|the foreword|
write|a short notice|for the members
draft|the invitation|
draft|a reply|to the residents
order|two drums of paint|
order|the spare filters|
book|the small hall|for the rehearsal
book|the tug|for the tow
check|the fire doors|on both floors
check|the figures|against the ledger
count|the life jackets|
measure|the gap|at the slipway
ask|the insurer|about the old roof
ask|the supplier|for a second quotation
get|three prices|for the scaffolding
get|the keys|from the caretaker
find|somebody|for the late shift
find out|the size|of the old frames
update|the wiki page|
update|the phone list|
fix|the export|
fix|the leaking tap|in the kitchen
test|the new build|on the old tablets
test|the pump|under load
translate|the leaflet|into French
proofread|the last chapter|
print|forty copies|of the programme
scan|the old maps|
collect|the keys|from the reception
collect|the forms|from the parents
return|the borrowed chairs|
repair|the gangway rail|
paint|the back wall|
clean up|the mailing list|
clear out|the shed|
move|the archive boxes|to the cellar
compare|the two offers|
review|the contract|
review|the test plan|
sign|the lease|
sign off|the safety case|
pay|the deposit|
pay|the second instalment|to the joiner
invoice|the museum|
chase|the electrician|
remind|the volunteers|about the boots
invite|the neighbours|
interview|the two candidates|
train|the new drivers|
brief|the night team|
present|the survey results|to the board
summarise|the feedback|
work out|the cost|of the second bus
work out|a rota|for August
put together|a shopping list|
put up|the notices|at the pool
take down|the old posters|
take|the samples|to the laboratory
bring|the spare projector|
show|the sketches|to the client
hand over|the login|to the agency
set up|the test accounts|
set up|a call|with the lawyer
switch off|the old server|
back up|the photographs|
register|the new address|with the tax office
apply for|the parking permit|
cancel|the old subscription|
renew|the domain|
close|the open tickets|
label|the shelves|
sort|the donated books|
weigh|the parcels|
pack|the exhibition cases|
unpack|the microphones|
sew|the missing buttons|on the costumes
tune|the upright piano|
rewrite|the chapter on sluices|
shorten|the speech|
record|the second trailer|
cut|the interview|down to ten minutes
choose|the cover photograph|
design|the badge|
build|a small mock-up|
install|the sensors|in the greenhouse
calibrate|the scales|
inspect|the trailer|
report|the broken lamp|to the town
answer|the letter|from the ministry
forward|the minutes|to the trustees
circulate|the agenda|
type up|the shift notes|
add|the missing prices|to the list
prepare|the room|for the visitors
prepare|the handover|to the spring team
plan|the route|for the walk
map|the dead trees|
water|the seedlings|
feed|the ponies|over the holiday
mend|the net|
replace|the cracked pane|
`;

export interface Job {
  verb: string;
  object: string;
  rest: string;
}

export const jobs = (): Job[] =>
  JOBS.trim()
    .split('\n')
    .map((line) => {
      const [verb, object, rest] = line.split('|');
      return { verb: verb!, object: object!, rest: rest! };
    });

/** A day as it is named, and the words that may stand before it where it is a term ("by Friday"). */
export const DAYS = `
Monday|by, before, on, for
Tuesday|by, before, on, for
Wednesday|by, before, on, for
Thursday|by, before, on, for
Friday|by, before, on, for
Friday the latest|by
next Monday|by, for
next Tuesday|by, for
next Thursday|by, for
this Thursday|by, for
tomorrow|by, for
tomorrow morning|by
tonight|by
the end of the week|by, before, at
the end of next week|by, at
the beginning of next week|by, at
the end of the month|by, before, at
the third|by, on, for
the seventh|by, on, for
the ninth|by, on, before
the twelfth|by, on, for
the fourteenth|by, on, before
the 16th|by, on, for
the eighteenth|by, on, for
the twenty-first|by, on, for
the 24th|by, on, for
the twenty-eighth|by, on, for
Monday week|by, on
Wednesday morning|by, on
Thursday evening|by, on
Friday afternoon|by, on
mid-June|by
the end of October|by, at
the second of May|by, on
the first of September|by, on
next time|by, for
the next meeting|by, for, before
two weeks' time|in
`
  .trim()
  .split('\n')
  .map((line) => {
    const [day, before] = line.split('|');
    return { day: day!, before: before!.split(', ') };
  });

export const EVENTS = [
  'the audit',
  'the board meeting',
  'the open day',
  'the inspection',
  'the regatta',
  'the trade fair',
  'the launch',
  'the school concert',
  'the handover',
  'the site visit',
  'the annual meeting',
  'the delivery',
  'the move',
  'the hearing',
  'the bank holiday',
  'the stocktake',
  'the photo shoot',
  'the first rehearsal',
  'the trustees',
  'the training',
];

export const AWAY = ["I'm at the dentist", "I'm on a course", 'I have the children', "I'm on leave", "I'm in court", "I've got visitors", "I'm on nights", "I'm at my sister's", 'the car is at the garage', "I'm on the train the whole day", 'we have the stocktake', "I'm not in", 'I have two other deadlines'];

export const SHE = ['Amara', 'Beata', 'Carmen', 'Dorota', 'Edith', 'Freya', 'Greta', 'Halina', 'Ingrid', 'Jelena', 'Keziah', 'Lucia', 'Meera', 'Nadia', 'Olive', 'Petra', 'Rukmini', 'Saskia', 'Thandi', 'Ulla', 'Vera', 'Wanda', 'Yasmin', 'Zofia'];
export const HE = ['Anton', 'Bruno', 'Casper', 'Dmitri', 'Emil', 'Femi', 'Gustav', 'Hamid', 'Igor', 'Jonas', 'Kofi', 'Ludwig', 'Matteo', 'Nikhil', 'Otto', 'Pavel', 'Quentin', 'Rafael', 'Sven', 'Tariq', 'Umar', 'Viktor', 'Walter', 'Yusuf'];

/** What is said between one matter and the next. */
export const ASIDES = [
  'Right. Next.',
  'Good.',
  'Is there any more tea?',
  'Sorry, I was on mute.',
  'Where were we?',
  'So.',
  'The window, please, somebody.',
  'Moving on.',
  'That was a long one.',
  'Okay, what else?',
  'I can hear a dog.',
  'Half past already.',
  'It rained the whole of last week.',
  'The new chairs are very nice, by the way.',
  'We talked about that one in the spring.',
  'I read it twice and still do not follow it.',
];
