import { answerLetter } from '../../../core/ask/letter.ts';
import { readAs } from '../../../core/ask/read-as.ts';
import { listOf } from '../../../core/language/days.ts';
import { firstNameOf } from '../../../core/letters/compose.ts';
import { letterHtml } from '../../../core/letters/html.ts';
import { quoted } from '../../../core/routines/sentences.ts';
import { ask as answerOf } from '../../find/ask.ts';
import { freshen } from '../../find/index.ts';
import { senderOf } from '../../letters/mail-settings.ts';
import { fillTemplate } from '../../letters/templates.ts';
import { inSight, whole } from '../../people/out-of-sight.ts';
import { workspaceOf } from '../../people/workspace.ts';
import { Refusal } from '../../refusal.ts';
import { ourDomain, publicAddress } from '../../store/addresses.ts';
import type { Doers } from '../doing.ts';
import { layInto } from '../exports/folder.ts';
import { taken } from '../exports/taken.ts';
import { sendSigned } from '../exports/webhook.ts';
import { valuesFor } from '../values.ts';

/** Posts words to the project's chat channel. */
export const post: Doers['post'] = async ({ text }, doing) => {
  const { ws, carriers, key, dry } = doing;
  const words = fillTemplate(text, await valuesFor(doing)).trim();
  const { chat_url } = await ws.db.selectFrom('projects').select('chat_url').where('id', '=', ws.project).executeTakeFirstOrThrow();
  if (!chat_url) throw new Refusal('conflict', 'This project has no chat channel.', 'Add its address on the Letter rules page.');
  if (!words) throw new Refusal('bad-input', 'Nothing is left to post once its fields are filled.', 'Change the words of the step.');
  if (!dry) await carriers.chat.post(chat_url, words, key);
  return { said: dry ? `would post ${quoted(words)}` : `posted ${quoted(words)}` };
};

/** Writes a file into a folder on the machine Ottik runs on; nothing that lies there is overwritten. */
export const file: Doers['file'] = async ({ what, format, folder }, { ws, meeting, dry }) => {
  const made = await taken(ws, what, format, meeting);
  if (dry) return { said: `would write ${made.name}`, details: [`${made.bytes.byteLength.toLocaleString('en')} bytes into ${folder}`] };
  const { name, there } = layInto(folder, made);
  return { said: there ? `${name} lies there already` : `wrote ${name}`, details: [`${folder}/${name}`] };
};

/** Sends a file to an address, signed. */
export const hook: Doers['hook'] = async ({ what, format, url }, { ws, now, meeting, key, dry, routine }) => {
  const made = await taken(ws, what, format, meeting);
  const host = new URL(url).host;
  if (dry) return { said: `would send ${made.name} to ${host}` };
  await sendSigned(ws, url, { id: key, type: `${what}.sent`, at: now, data: { routine: routine.name, project: ws.project, meeting, file: { name: made.name, type: made.type, ...made.body } } });
  return { said: `sent ${made.name} to ${host}` };
};

/**
 * Asks a question and mails the answer. Everybody gets the answer as they would see it themselves, so only those who sign in
 * here can have one; whoever got it in an earlier try does not get it again.
 */
export const ask: Doers['ask'] = async ({ question, to }, { ws, carriers, key, dry, told, tell }) => {
  const people = await ws.db.selectFrom('people').select(['id', 'name', 'mail', 'account']).where('id', 'in', to).execute();
  const without = people.find((p) => !p.account) ?? people.find((p) => !p.mail);
  if (without) throw new Refusal('conflict', without.account ? `${without.name} has no mail address.` : `${without.name} does not sign in here, and an answer tells what its reader may see.`, without.account ? 'Add one under People.' : 'Choose somebody with an account.');
  if (people.length === 0) throw new Refusal('conflict', 'Nobody of those who were to get the answer is here any more.', 'Choose others.');
  if ((await freshen(ws.db, 0)) > 0) return { waits: 'the find index' };
  const sender = await senderOf(ws, ws.project);
  const sent: string[] = [];
  let first = '';
  for (const p of people) {
    if (told.includes(p.id)) continue;
    const theirs = (await inSight(await workspaceOf(whole(ws.db), p.id, ws.today))).with({ project: ws.project });
    const asked = await answerOf(theirs, question);
    if (asked === null || asked === 'unread') throw new Refusal('bad-input', `${quoted(question)} is no question Ottik can answer.`, 'Try it on the Find page, and take what is understood there.');
    const { subject, text } = answerLetter(question, readAs(asked.question, asked.who, ws.today), asked.answer, { first: firstNameOf(p.name), link: `${publicAddress()}/find?q=${encodeURIComponent(question)}`, today: ws.today });
    first ||= text;
    if (!dry) {
      await carriers.mail.send({
        messageId: `<routine.${key}.${p.id.replace(/[^\w-]/g, '')}@${ourDomain()}>`,
        from: { name: sender.name, address: sender.address },
        to: { name: p.name, address: p.mail! },
        replyTo: sender.address,
        subject,
        text,
        html: letterHtml(text),
        headers: { 'Auto-Submitted': 'auto-generated' },
      });
      await tell(p.id);
    }
    sent.push(p.name);
  }
  return {
    said: `${dry ? 'would mail' : 'mailed'} the answer to ${listOf(sent)}`,
    details: first
      .split('\n')
      .filter((l) => l.startsWith('- '))
      .slice(0, 8),
  };
};
