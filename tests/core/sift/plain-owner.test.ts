import { describe, expect, it } from 'vitest';
import { readMail } from '../../../src/core/record/mail.ts';
import { readRecord, withVoices } from '../../../src/core/record/read.ts';
import type { SiftModels } from '../../../src/core/sift/models.ts';
import { sift } from '../../../src/core/sift/sift.ts';
import weights from '../../../src/core/sift/weights/quick.json' with { type: 'json' };

const models = weights as unknown as SiftModels;
const people = [
  { id: 'ines', name: 'Ines Falk', aliases: [], role: 'project manager' },
  { id: 'bram', name: 'Bram Osei', aliases: [], role: 'yard lead' },
  { id: 'ruth', name: 'Ruth Adair', aliases: [], role: 'insurer' },
  { id: 'wim', name: 'Wim Ro', aliases: [], role: '' },
];
const meeting = (author: string | null) => ({ date: '2026-03-05', next: '2026-03-12', present: ['ines', 'bram', 'wim'], author });
const owners = (record: ReturnType<typeof readRecord>, author: string | null, about: RegExp) =>
  sift({ record, people, meeting: meeting(author), open: [] }, models)
    .finds.filter((f) => f.kind === 'action' && about.test(`${f.text} ${f.about.join(' ')}`))
    .map((f) => f.owner.join('+') || 'nobody');

describe('whom the words give a job to', () => {
  it('is whoever a mail greets and asks, not who else is in the thread', () => {
    const mail = (text: string) => withVoices(readMail({ from: 'Ines Falk', sent: '2026-03-05', subject: 'Chain', text }));
    expect(owners(mail('Hi Bram,\n\nplease send the hoist certificate to the insurer by Friday. Ruth asked for it twice.\n\nInes\n\nOn Thu, 5 Mar 2026 at 09:00, Wim Ro wrote:\n> The chain has come.'), null, /certificate/)).toEqual(['bram']);
    expect(owners(mail('Hi Wim, Hi all,\n\nBram, could you order the spare chain before Tuesday?\n\nInes'), null, /chain/)).toEqual(['bram']);
  });
  it('is whom “he” and “she” stand for in a memo, not its author', () => {
    const memo = (text: string) => owners(readRecord(text, 'txt'), 'ines', /drawings|invoice/);
    expect(memo('Spoke with Bram at the slip about the ramp.\nHe will send the revised drawings by Friday.')).toEqual(['bram']);
    expect(memo('Ruth rang about the cover. She’ll send the corrected invoice on Monday.')).toEqual(['ruth']);
  });
  it('is nobody where somebody has to and nobody says they will', () => {
    const talk = (text: string) => owners(readRecord(text, 'txt'), null, /tell|berth/i);
    expect(talk('Ines: Somebody has to tell Ruth about the new berth before Friday.\nBram: True.\nWim: Next point is the paint.\nInes: Yes, the paint.')).toEqual(['nobody']);
    expect(talk('Ines: Somebody has to tell Ruth about the new berth before Friday.\nBram: I’ll tell her tomorrow.\nInes: Good.\nWim: Next point is the paint.')).toEqual(['bram']);
  });
});
