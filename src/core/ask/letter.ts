import { shortDay } from '../language/days.ts';
import type { Answer } from './answer.ts';

/** An answer as a letter: its lines with the words they rest on, and where to look further. */
export function answerLetter(question: string, readAs: string, answer: Answer, { first, link, today }: { first: string; link: string; today: string }): { subject: string; text: string } {
  const lines = answer.lines.flatMap((l) => {
    if (l.head) return ['', l.text];
    const source = answer.sources[l.sources[0] ?? -1];
    const words = source?.words.replace(/\s+/g, ' ').trim();
    // many lines begin with their reference; it stands by itself here
    const own = l.ref && l.text.startsWith(`${l.ref.ref},`) ? l.text.slice(l.ref.ref.length + 1).trim() : l.text;
    return [`- ${l.ref ? `${l.ref.ref}  ` : ''}${own}`, ...(words && words !== l.text ? [`  ${source!.who ? `${source!.who}: ` : ''}“${words.length > 200 ? `${words.slice(0, 199)}…` : words}”`] : [])];
  });
  const body = [`${first},`, '', `You asked: ${question}`, `Read as: ${readAs}.`, '', ...lines, ...(answer.missing ? ['', answer.missing] : []), '', `The places, and what else was said: ${link}`];
  return { subject: `${question} (${shortDay(today)})`, text: body.join('\n').replace(/\n{3,}/g, '\n\n') };
}
