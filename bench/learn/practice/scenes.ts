/**
 * Exchanges in which somebody takes on, or is given, a job that is due on a day, with what usually stands beside it: other
 * days, other people, another job, a first answer that is taken back. They are of our own making and go by the rules the
 * annotated meetings are annotated by.
 *
 * A line is spoken by A, B or C, who are there; D is not; N is a line of notes and M one that somebody dictates. The numbers behind a speaker are the jobs the line is a place of.
 * `{1}` is the first job ("send the plans to the printer"), `{1ing}`, `{1s}` and `{1o}` its other forms (the last its
 * object); `{d}`, `{e}`, `{f}` are days as they are named, `{by d}` with a word before them; `{ev}` is something that takes
 * place, `{away}` a reason not to be there; `{he}`, `{him}`, `{his}` are D, `{B_he}` is B. A line with `=` tells whose a job is and when
 * it is due; `-` is nobody, or no day.
 */
const SPOKEN = `
A1: Could you {1}, {B}? {by d}, if you can.
B1: Yes, that's fine.
= 1 B d

A1: {B}, can you {1} {by d}?
B1: {d} is no good, {away}. {e}?
A1: {e} it is.
= 1 B e

A1: Who could {1}?
B: Not me, {away}.
C1: I'll do it. You'll have it {by d}.
= 1 C d

A1: Somebody has to {1}. {B}, you know them.
B1: I do, unfortunately. All right, but not before {d}, I'm drowning.
A1: {d} is fine.
= 1 B d

B1: I'll {1} {by d}, and then we'll see.
A: {ev} is {e}, mind.
B1: I know. {d}, as I said.
= 1 B d

A1: {D} will have to {1}, {by d}.
C: Does {he} know?
A2: I'll tell {him} {e}.
= 1 D d
= 2 A e tell {D}

A: {ev} is {d}, so time is short.
B1: Then I'd better {1}. {e}, at the latest.
C: {e} leaves us next to nothing.
= 1 B e

A: They'll hold it for us until {d} and not an hour longer.
B1: I'll {1} {e}, that's no trouble at all.
= 1 B e

B1: Leave that to me. I'll {1} and let you know.
A: And {C}, what about yours?
C2: Mine is to {2}, I haven't forgotten. {d}.
= 1 B -
= 2 C d

A1: {B}, would you {1}, and {C}, would you {2}?
B1: {by d}, yes.
C2: I need until {e}.
A: {d} and {e}, then. Thank you both.
= 1 B d
= 2 C e

A12: So {B} will {1} {by d}, and {C} will {2} {by e}.
B1: Yes.
C2: Yes.
= 1 B d
= 2 C e

B1: I can {1} this week.
A1: When this week?
B1: Well, {d}. No, {d} is the day of {ev}. {e}.
A1: {e}, lovely.
= 1 B e

A1: Has anyone had time to {1}?
B: I thought {C} had.
C1: No, sorry. I'll do it now, well, not now, {d}.
= 1 C d

C1: I was going to {1} {d}, but with {ev} on top of everything I don't see it happening.
A1: Would {e} help?
C1: {e} would help a great deal.
= 1 C e

A1: Let me {1}. It's quicker than explaining it.
B1: When do we have it?
A1: {d}? No, let's be honest, {e}.
= 1 A e

B1: If nobody minds I'll {1}.
A1: Nobody minds. {by d}?
B1: {by d}.
C: And then {ev}, {e}.
= 1 B d

A1: {B}, you said you'd {1}.
B1: I did, and I haven't. Give me until {d}.
A: {C}?
C2: I'm to {2}. That was {e}, and {e} it stays.
= 1 B d
= 2 C e

B1: I'd need {C} to {1} first.
C1: I could do that. {d}?
B12: {d}, and then I {2} {by e}.
A: Good.
= 1 C d
= 2 B e

A1: We need to {1}. No name on it yet.
B: I've no idea who would know how.
A1: Then it stays open for today who does it. It must be done, though.
= 1 - -

A1: It has to be done, we have to {1}, and it has to be done {by d}.
C: Don't look at me.
A1: We'll find somebody.
= 1 - d

A1: I'd say {B} and {C} sit down together and {1}.
B1: Fine by me.
C1: When? I'm away {d}.
B1: {e}, then. I'll bring the biscuits.
= 1 B,C e

B1: {C} and I will {1} {by d}.
C1: We will?
B1: We will.
C1: All right.
= 1 B,C d

A1: {B}, it's you again, I'm afraid. {1}, please.
B1: Again. Fine. But I'm only back on {d}, so don't expect it before {e}.
A1: {e} is soon enough.
= 1 B e

A1: Could somebody {1} for me {by d}?
B: {d} {away}.
C1: I can do it, it's on my way.
A1: You're very kind.
= 1 C d

B1: I suppose that's mine.
A1: It is. You'd have to {1}.
B1: How long have I got?
A1: {ev} is {d}, so, {e}?
B1: {e}.
= 1 B e

A1: Would you {1}, {B}?
B: I would, but {away} until {d}.
A1: {C}, then?
C1: Go on. {e}.
= 1 C e

A1: We said {B} would {1} {by d}.
B1: Hm, {d}. I've just looked, that's {ev}. Can it be {e}?
A1: It can.
= 1 B e

A: Thanks, {B}. Now, {1ing}, whose is that?
C1: Mine, by the look of it. I'll have it ready {by d}.
A: And when's {ev}?
B: {e}.
= 1 C d

C: I sent them the old one on {d}, and nobody answered.
B1: I'll {1}, that usually helps.
A1: When?
B1: {e}.
= 1 B e

B1: I {1} as soon as I get a free minute.
A: Good. {C}, you're on for {ev}, aren't you?
C: {d}, yes.
= 1 B -

B1: I'll {1} when I get round to it.
A: And I'll {2} {by d}, so that's us.
A2: {d}, I promise.
= 1 B -
= 2 A d

A1: {D} should {1}. {he} has the keys.
B12: I see {him} {d}, I'll ask {him}. {he} could do it {by e}, I'd think.
A1: {e}, good.
= 1 D e
= 2 B d ask {D}

A1: And {1ing}, who takes that?
B1: Me.
A: Then there's {2ing}.
C2: Give it here. {d}.
= 1 B -
= 2 C d

B1: I'll take it home with me and {1}. You've got it {by d}.
A: That's early. {ev} isn't until {e}.
B: I like early.
= 1 B d

A1: {B}, when do I get {1o}?
B1: I still have to {1}. {d}.
A1: Which is after {ev}.
B1: All right, {e}. But don't complain about the spelling.
= 1 B e

C: I'd {1}, only {away} all of next week.
B1: Then I'll do it. {by d}.
A: Settled.
= 1 B d

A1: If I {1} {by d}, can you {2} {by e}?
B2: I can, if you really do.
A12: I really do.
= 1 A d
= 2 B e

B2: I can't {2} before I've got {1o}.
C1: You'll have it {d}, I only have to {1}.
B2: Then mine would be {e}.
A: {d} and {e}. I'm writing that down.
= 1 C d
= 2 B e

A1: I want to {1} before {ev}.
B: That's {d}.
A1: I know when it is. {e}, then, that leaves a day to spare.
= 1 A e

B1: Shall I {1}?
A1: Please. Is {d} too soon?
B1: {d} is fine, I'm in anyway.
= 1 B d

B: Shall I {1}?
A: No, no, you've enough on. {C}?
C1: I can, {by d}.
= 1 C d

B1: Let's say I {1} {by d}.
C: You said {e} last time, and what did we get?
B: You got it {e}, in the end.
A1: {d}, and we're holding you to it.
= 1 B d

A1: {B}, {1}, {by d}. {C}, {2}, {by e}. And for me it's the rest.
B1: Yep.
C2: Yep.
= 1 B d
= 2 C e

A1: So what's left? {1ing}.
B1: Yes, with me. I said {d}, but make it {e}, {ev} got moved.
A1: {e}.
= 1 B e

A1: {1ing} is with you, {B}?
B: With {D}, I thought.
A1: {D} gave it back. So?
B1: So with me. After {d}, though. Say {e}.
= 1 B e

A1: {D} can {1}, {he} has the time.
C1: {he} doesn't, {he} told me on {d}. I'll do it myself.
A1: {by e}?
C1: {by e}.
= 1 C e

A1: Is {B} still going to {1}?
B1: Yes, yes. Did I name a day?
A1: You did not.
B1: Then {d}.
= 1 B d

C1: {D} rang. {he} will {1} {by d}, cross {his} heart.
A: I'll believe it when I see it.
= 1 D d

A1: I promised them we'd {1} {by d}, so who's it going to be?
B: I did the last one.
C1: Fine, fine. I'll do it.
= 1 C d

B: The others want to meet {d}.
A1: Then I need {1o} before that. {B}, can you {1}?
B1: {e}, in the evening?
A1: {e} in the evening is all right.
= 1 B e

B1: I'm seeing them {d} anyway, so I'll {1} then.
A: Perfect, and {ev} is only {e}.
= 1 B d

A1: You'd {1}, wouldn't you, {B}?
B: When?
A1: It's for {ev}.
B1: Oh. Yes. So {d}. Yes, I'll manage.
= 1 B d

A1: I'm putting you down to {1}, {B}.
B1: For when are you putting me down?
A1: {d}.
B1: Put {e}.
A1: I've put {e}.
= 1 B e

C1: I'll {1}.
A1: Thank you, {C}. No hurry with that.
B2: And I'll {2} {by d}, there is a hurry with that.
= 1 C -
= 2 B d

A: {C}, did you get anywhere?
C1: Half of it came on {d}. I'll {1} with the other half, {by e}.
= 1 C e

A1: Then one of you two has to {1}.
B: I did it in the spring.
C: That was me, in the spring.
B1: So it was. Me, then. {by d}.
= 1 B d

A1: {B}, I'd like you to {1}. I'd do it myself, but {away} {d}.
B1: Consider it done. Well, {e}.
= 1 B e

B1: We'll {1}, {C} and me.
C1: I'm free {d}.
B1: {d} then, two o'clock.
= 1 B,C d

B1: I'll {1} if {C} helps.
C: I'll hold the ladder, no more.
A1: So {B}. {d}?
B1: If it's dry. Yes.
= 1 B d

A1: Hm, and who will {1}? It was always {D}.
B1: I'll ask {him} to show me, and then it's mine. {by d}, realistically.
= 1 B d

C: We can't ask {D} again.
A1: We can, and I shall. {he} will {1}, {by d}, and {he} will like it.
= 1 D d

A1: Who tells them?
B: I wouldn't know what to say.
A1: I'll tell them myself, I'll {1}, {d}, before the day gets busy.
= 1 A d

A12: Right. To sum up. I {1} {by d}, {B} {2s} {by e}, and {ev} stays where it is.
B2: Agreed.
= 1 A d
= 2 B e

A12: Let me go round. {B}, you {1}. {C}, you {2}, {by d}.
B1: I never said when.
A1: When, then?
B1: {e}.
= 1 B e
= 2 C d

A12: That makes two things. {C} {1s}, that's for {d}. And {B} {2s}, no date on that one.
C1: Right.
= 1 C d
= 2 B -

B1: Could I have a bit longer? I'd rather {1} properly.
A1: How much longer?
B1: To {d}.
A1: But {ev} is {e}.
B1: So? It'll still be in time.
A1: All right.
= 1 B d

A1: {B} was to have {1o} for us today.
B1: I know. {away} the whole of last week. {d}.
C: That's what you told us on {e}.
= 1 B d

A: Whatever we do, {ev} won't wait.
B1: I'll {1} first thing {d}.
C2: And I'll {2}, so that it's all there {by e}.
= 1 B d
= 2 C e

B1: Put me down for that. I'll {1}.
C: Not {d}, please, we're all at {ev}.
B1: {e}, then.
= 1 B e

A1: Can you live with {d} for {1ing}?
B1: I can live with {d}.
= 1 B d

A1: And {by d} we'd have {1o}?
B1: {by d} you'd have it, I'll {1} over the weekend.
= 1 B d

C: {D} asked whether anybody could {1}.
A: Not our job, is it?
C1: It isn't, but I said I would. {d}.
= 1 C d

B: I could {1}.
A: You could, but {C} knows them better. {C}?
C1: Yes, okay. They're back {d}, so a day after, {e}.
= 1 C e

A1: {B}. You owe us {1o}.
B1: I owe everybody everything. {d}.
A1: Really {d}?
B1: Really.
= 1 B d

C1: I'm happy to {1}.
B: And when would that be?
C1: They open again {d}. I'd go straight away, so {d}.
= 1 C d

A1: Would {D} do it?
B1: {he} would if I asked. {he} would have to {1}, what, {by d}?
A12: {by d}. You ask {him}.
B2: I'll ask {him} {e}.
= 1 D d
= 2 B e ask {D}

B1: One thing I'd like, is that we {1} before the winter.
A1: {C}, is that something for you?
C1: It is. {by d}?
A1: {by d}.
= 1 C d

B: What happens {d}?
A: {ev}.
B1: Oh no. Then I'll {1} tonight, or it'll never be done.
= 1 B tonight

A1: {B}, just {1} and be done with it.
B1: Today?
A1: Tomorrow is soon enough, today is {ev}.
B1: Tomorrow, then.
= 1 B tomorrow

B1: I'll {1} tomorrow.
A: {ev} is {d}, there's no need to run.
B1: If I don't do it tomorrow I won't do it at all.
= 1 B tomorrow

A1: I'll ring you {d} about it, {B}. No, better: you {1} and send it to me.
B1: By when?
A1: {by e}.
B1: Okay.
= 1 B e

A1: The deadline is {d}, theirs, not ours. Ours is {e}.
B1: So I {1} {by e}.
A1: Exactly.
= 1 B e

B1: They moved it from {d} to {e}. That gives me time to {1}.
A1: When do I see it?
B1: {f}.
= 1 B f

C1: Between {d} and {e} nobody is in. I'll {1} {by f}.
A: That'll do.
= 1 C f

B1: I'll {1}, I said that already, didn't I?
A1: You did, for {d}.
B1: For {d}, yes.
= 1 B d

A1: {D}, since {he} can't say no, gets to {1}.
B: When does {he} hear about it?
A1: In the minutes. {by d}.
= 1 D d

A1: {B}, {C}, which of you will {1}?
C: Heads or tails.
B1: No, no, me. I'm up there {d} in any case.
= 1 B d

C: On {d} they come to look at it.
A: Then it'd better be there.
C1: It will be. I {1} {e}.
= 1 C e

A1: What about {1ing}, {B}?
B1: That'll be {d}.
C: Mine went out on {e}, if anybody's counting.
= 1 B d

A1: Do you want to {1} or shall I?
B1: You, please. You've got the nicer handwriting.
A1: Me, then. {d}.
= 1 A d

A1: Do you want to {1} or shall I?
B1: I'll do it. I've got to go there {d} in any case.
= 1 B d

B: I told {D} {d} was impossible.
A1: And {1ing}?
B1: Oh, I'll do that. {by e}.
= 1 B e

A: No rush with the other thing, {C}.
C1: And this one? I was to {1}.
A1: This one I'd want {by d}.
C1: {by d}. Mm.
= 1 C d

A1: Could you two {1}?
B1: Together?
C1: Sure. {d}?
B1: {e} suits me better.
C1: {e}.
= 1 B,C e

B: She said {d}, then {e}, then nothing.
A1: I'll {1} and find out.
B: Good luck.
= 1 A -

B1: So I {1}.
A: Yes, and thank you. When was {ev} again?
C: {d}.
= 1 B -

A1: {B}, you're going to {1}, yes?
B1: Yes.
A: {C}, did you want to say something about {ev}?
C: Only that it's {d}.
= 1 B -

A12: {D} has to {1} {by d}. I'm seeing {him} {e} anyway, so I'll tell {him} then.
B: Better you than me.
= 1 D d
= 2 A e tell {D}

A1: That one is for {D}. {he} must {1}, and not {e}, {d}. I'm writing to {him} now, there, it's sent.
B: {he} always says yes.
= 1 D d

B1: That has to be {D}, nobody else is allowed to {1}.
A12: Then I'll speak to {him} {e}. When do you need it?
B1: {d} at the latest, or we start without.
= 1 D d
= 2 A e speak to {D}

B1: {D} will, I've spoken to {him}. {he} said {he} would {1} {by d}.
A: And you?
B: I go to {ev} {e}, as always.
= 1 D d

A1: You rang {D}?
B1: I did, and {he} told me to tell you it comes from {him}. {he} is going to {1} {by d}.
C: {by d}. Hm, all right, we can wait.
= 1 D d

A1: {B}, could you {1}?
B1: You're asking me to work.
A1: I'm asking you when.
B1: Well, this is a dreadful week, and {d} is {ev}. Say {e}.
= 1 B e

B1: I do that. I have to {1} in any case.
A1: And {C}, would you as well? It's half yours.
C1: As long as it isn't {d}, {away} {d}.
A1: From both of you {by e}, then?
C1: Fine.
B1: All right.
= 1 B,C e

A1: I don't want to {1} alone. {B}, do you have an hour?
B1: An hour I have. Where?
A1: At my place, {d}, I've got the big table.
B1: {d}. I'll bring the cake.
= 1 A,B d

B1: It needs two to {1}. {C}, are you in?
C1: I'm in. {d}, first thing?
B1: Not first thing. {e}.
C1: {e}.
= 1 B,C e

A1: Could you {1}, {B}?
B1: Not alone, no. You know the one half, I know the other. I'd rather we did it together.
A1: Okay, when are you here?
B1: {d}, and after that not for weeks.
A1: {d}, then.
= 1 A,B d

A1: {B} and {C} need to {1}, the two of them, and I'd like it {by d}.
C1: We'll manage.
= 1 B,C d

B1: You do the first half and I'll do the second, and so we {1}, {C}.
C1: So it's between the two of us?
B1: Yup. {d}?
C1: {d} is fine.
= 1 B,C d

A1: So we {1}, I'd need you for the heavy end, {B}.
B1: You've got me. {d} after lunch?
A1: After lunch.
= 1 A,B d

A1: Next, {1ing}. Without that nothing goes on.
B: Shall I?
A1: No, I'll do it myself, I know the lady. {by d} it's with her.
= 1 A d

A1: {1ing}, that has to be in {by d}, and it's {C}'s.
B: {C} is on the other line.
A12: Then I'll ring {C} {e} about it, so that it doesn't come as news.
= 1 C d
= 2 A e ring {C}

B1: {C} has it all at home. I can {1} with that. {d}, if you like.
A1: {d} is good.
= 1 B d

B1: We should {1}, really.
C: With pictures.
A1: {B}?
B1: Okay, okay, I'll do it, no pictures.
C1: One picture.
B1: One picture. {d}.
= 1 B d

C: They want to hear from us {by d}.
A: From us, or from you?
C1: From me, I suppose. I'll {1}, {e}, when the house is quiet.
= 1 C e

A1: Then could you not just {1}, {B}?
B1: Yes, yes. {d}, when the little one sleeps.
A: And {C}, {ev}?
C: Is on {e}, same as last year.
= 1 B d

B1: I draw it for you first. I mean, I'll {1}, so that nobody has to guess.
C1: But {d} I need it.
B1: {d}. Good.
= 1 B d

C1: When does it come? I need three, four days with it.
B1: {d}. I only have to {1}.
C12: {d} is good. Then I'd {2} by, let me see, {e}.
= 1 B d
= 2 C e

B1: I'll get it done, I'll {1}, {d}.
C: Ah, wait. {d} I'm away the whole day.
B1: {e}, can you do {e}?
C1: {e} is okay.
= 1 B e

A1: Who sits down with them?
B: They never answer. It's a woman who is never at her desk.
C1: Write to her, then. I mean I will. I'll {1}.
A1: And a date?
C1: I'm not putting a date on it.
A: {ev} is {d}.
= 1 C -

C: We could ask the others.
A1: No, look, leave it with me. I'll sort it out somehow.
B1: But before {ev}.
A1: Call it {d}. I {1}, you have it {d}.
= 1 A d

A1: {D} is to {1}. {he} said a week is enough, so let's say {d}, to be kind.
B: Does {he} know which?
A1: I told {him}.
= 1 D d

B1: So I'm to {1}, and {C}'s lot come {d}.
A1: Yes, and that's why I'd like it {by e}.
B1: I'll do my best. {e}, yes.
= 1 B e

A1: They want the money {by d}, or the room is gone.
B1: I'll be in town {e}, so I {1} then and there.
= 1 B e

B1: I'll speak to {D}, {he} is back {d}, and ask whether {he} can {1}.
A1: And if {he} can't?
B1: Then I {1} myself.
= 1 B -

A1: It's {C}'s, surely.
C: It was. I gave it to {B} with the keys.
B1: You did. Fine. I {1} {by d}.
= 1 B d

A1: {B}'s got enough on. {C}, dear?
C1: I knew it. What is it this time?
A1: {1ing}. {by d}?
C1: {by d}.
= 1 C d
`;

const WRITTEN = `
N1: {B} to {1} by {d}.
N2: {C} to {2} by {e}.
= 1 B d
= 2 C e

N1: {B} will {1} ({d}).
N: {ev} takes place on {e}.
= 1 B d

N: {ev} was put off to {d}.
N1: {B} undertook to {1} before the next sitting; {C} offered to help but was not needed.
= 1 B next

N1: {1} -> {B}, {d}
N2: {2} -> {C}
= 1 B d
= 2 C -

N1: - {1} ({B}/{C}, {d})
N2: - {2} (nobody yet)
= 1 B,C d
= 2 - -

N: {ev} on {d}, everybody comes
N1: {B}: {1}, by {e}
= 1 B e

N1: {1} by {d}: {D}, who was not there and will be told by {C} {e}.
= 1 D d

N1: {C} asked that somebody {1}. {B} agreed, for {d}.
= 1 B d

N1: {B} had promised this for {d} and asked for more time: will {1} by {e}.
= 1 B e

N1: {B} {1s} by {d}; {2ing} falls to {C}, who wants until {e}.
N2: {C} is not to start before {ev}.
= 1 B d
= 2 C e

N1: It was agreed to {1}. It was left open who does so.
N2: {B} will {2} by {d}.
= 1 - -
= 2 B d

N1: @{B} {1} ({d} said first, then {e})
= 1 B e

N12: {B} and {C} split the rest: {B} {1s} by {d}, {C} {2s} by {e}.
= 1 B d
= 2 C e

N1: {1}: {B}, by {d}, since {ev} is on {e}
= 1 B d

N1: {D} will have to {1} by {d}. The Secretary will tell {him} {e}.
= 1 D d

N1: {B} took it upon {B_self} to {1}, and hopes to be done by {d}. {C} wondered whether a program might not do it.
N: {ev} is on {e}.
= 1 B d

N1: {B} will {1} and let {C} have it by {d}.
N: The chair passes to {C} on {e}.
= 1 B d

N1: {B} and {C} will sit down together and {1}; they bring it to the next sitting.
= 1 B,C next

N1: {B} explained that it can't be done before {d}. {C} will therefore {1} by {e} with what there is.
= 1 C e

N1: {1} [{B} + {C}] by {d}
N2: {2} [{A}]
= 1 B,C d
= 2 A -

N: {ev} wants everything by {d}.
N1: {B} {1s} by {e}, {C} reads it
= 1 B e

N1: -> {B}: {1}. NOT {d}, {e}
= 1 B e
`;

const DICTATED = `
M12: {B} promised me {B_he} would {1} {by d}. I told {B} I'd {2} in return, {by e}.
= 1 B d
= 2 M e

M1: I said I'd {1}, and I'd better do it {by d}, because {ev} is {e}.
= 1 M d

M1: So that's me, to {1}. {d}.
M: {B} was on about {ev} again, it's {e}.
= 1 M d

M1: {B} will {1}, not {by d} as I'd hoped, {B_he} has visitors, but {by e}.
= 1 B e

M1: And {D}, whom I still have to ring, has to {1} {by d}.
M2: I'll ring {D} {e}.
= 1 D d
= 2 M e ring {D}

M1: {B} and I are going to {1}, {d}, at {B}'s kitchen table.
= 1 B,M d

M1: Nobody wanted to {1}. It has to be done all the same. I left it open.
= 1 - -

M1: {C} looked at the ceiling and said all right, {C_he} would {1}.
M: For {ev}, I asked, and {C_he} said no, that's {d}.
M1: {C_he} wants until {e}. So, {e}.
= 1 C e

M1: {B} asked whether I could {1}.
M1: I said yes. {by d}.
= 1 M d

M1: {B} is to {1}.
M2: {C} is to {2}, {by d}.
M: No date from {B}.
= 1 B -
= 2 C d
`;

export interface SceneLine {
  /** A, B or C; N of notes, M of what is dictated */
  speaker: string;
  jobs: string[];
  text: string;
}

export interface Scene {
  lines: SceneLine[];
  /** whose each job is and when it is due, and what it is where it is none of the blanks */
  jobs: { job: string; owner: string[]; day: string | null; text: string | null }[];
}

/**
 * Reads exchanges as they are written above.
 * @throws what a line is that is none
 */
export function readScenes(text: string): Scene[] {
  return text
    .trim()
    .split(/\n\n+/)
    .map((block) => {
      const scene: Scene = { lines: [], jobs: [] };
      for (const line of block.split('\n')) {
        const told = /^= (\d) (\S+) (\S+)(?: (.+))?$/.exec(line);
        const said = /^([ABCMN])(\d*): (.+)$/.exec(line);
        if (told) scene.jobs.push({ job: told[1]!, owner: told[2] === '-' ? [] : told[2]!.split(','), day: told[3] === '-' ? null : told[3]!, text: told[4] ?? null });
        else if (said) scene.lines.push({ speaker: said[1]!, jobs: [...said[2]!], text: said[3]! });
        else throw new Error(`not a line of an exchange: ${line}`);
      }
      const untold = scene.lines.find((l) => l.jobs.some((j) => !scene.jobs.some((x) => x.job === j)));
      if (untold) throw new Error(`whose job is it? ${untold.text}`);
      return scene;
    });
}

export const spokenScenes = () => readScenes(SPOKEN);
export const writtenScenes = () => readScenes(WRITTEN);
export const dictatedScenes = () => readScenes(DICTATED);
