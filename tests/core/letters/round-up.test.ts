import { Liquid } from 'liquidjs';
import { describe, expect, it } from 'vitest';
import { letterHtml } from '../../../src/core/letters/html.ts';
import { composeRoundUp, type RoundUpInput } from '../../../src/core/letters/round-up.ts';

const liquid = new Liquid({ strictVariables: true });
const fill = (t: string, v: Record<string, unknown>) => liquid.parseAndRenderSync(t, v) as string;
const input: RoundUpInput = {
  today: '2026-03-05',
  project: { name: 'Quiet Crossing' },
  meeting: { title: 'Weekly works call', date: '2026-03-05', number: 9, next: '2026-03-12' },
  actions: [
    { ref: 'C-48', text: 'Redraw the outline.', owner: ['Jonas Pike'], due: '2026-03-10' },
    { ref: 'C-49', text: 'Find a welder', owner: [], due: null },
  ],
  decisions: [{ ref: 'D-14', text: 'Trunk goes aft' }],
  questions: [{ ref: 'Q-4', text: 'Does the plug reach?' }],
  updates: [{ ref: 'C-28', text: 'Plinth poured', owner: ['Dele Marchetti'], news: 'moved', due: '2026-03-13' }],
  sender: { name: 'Ines Falk' },
};

describe('the round-up letter', () => {
  it('says who does what by when, what was decided, what moved and what is open', () => {
    const { subject, body } = composeRoundUp(input, fill);
    expect(subject).toBe('Weekly works call, Thu 5 Mar: 2 actions, 1 decision, 1 open question');
    expect(body).toContain('- C-48  Redraw the outline. Jonas Pike, by Tue 10 Mar');
    expect(body).toContain('- C-49  Find a welder. nobody yet, no date yet');
    expect(body).toContain('- C-28  Plinth poured: now Fri 13 Mar');
    expect(body).toContain('We meet again on Thu 12 Mar.');
    expect(body).not.toMatch(/\n{3}/);
    expect(body).not.toContain('Nothing was decided');
  });
  it('leaves the recipient to be filled in when it is sent', () => {
    expect(composeRoundUp(input, fill).body).toContain('Dear {{ recipient.first }},');
  });
  it('comes in other languages, and takes no variable from the words it reports', () => {
    const { subject, body } = composeRoundUp({ ...input, language: 'fr', actions: [{ ref: 'C-1', text: 'Fill {{ recipient.secret }}', owner: ['Ruth'], due: '2026-03-10' }] }, fill);
    expect(subject).toBe('Weekly works call, jeu. 5 mars : 1 action, 1 décision, 1 question ouverte');
    expect(body).toContain('- C-1  Fill { { recipient.secret }}. Ruth, pour le mar. 10 mars');
    expect(fill(body, { recipient: { first: 'Bram', name: 'Bram Osei' } })).toContain('Bonjour Bram,');
  });
  it('says so when nothing came out', () => {
    const empty = composeRoundUp({ ...input, actions: [], decisions: [], questions: [], updates: [] }, fill);
    expect(empty.body).toContain('Nothing was decided');
    expect(empty.subject).toContain('what came of it');
  });
  it('makes a page of it in which nothing of the words is markup', () => {
    const html = letterHtml('Dear <b>Bram</b>,\n\nDecided\n- D-1  Use "steel" & <script>alert(1)</script>\n- plain');
    expect(html).not.toContain('<script>');
    expect(html).toContain('&lt;script&gt;');
    expect(html).toContain('<b>Decided</b>');
    expect(html).toContain('>D-1</b>');
  });
});
