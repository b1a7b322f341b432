import type { EXPORTS, FILE_FORMATS } from '../../../core/routines/routine.ts';
import { ledgerRows } from '../../ledger/commitments.ts';
import { isLedgerFormat, LEDGER_FORMATS, ledgerFile } from '../../ledger/files.ts';
import { FORMATS, type MinutesFormat, minutesFile, minutesOf } from '../../meetings/minutes/minutes.ts';
import type { Workspace } from '../../people/workspace.ts';
import { Refusal } from '../../refusal.ts';

/** A file that is taken along, with its body as JSON can carry it. */
export interface Taken {
  name: string;
  type: string;
  bytes: Uint8Array;
  body: { text: string } | { base64: string };
}

const isMinutesFormat = (format: string): format is MinutesFormat => Object.hasOwn(FORMATS, format);

/** The newest minutes of a meeting, issued or as they stand, or the open commitments of the project, as a file. */
export async function taken(ws: Workspace, what: (typeof EXPORTS)[number], format: (typeof FILE_FORMATS)[number], meeting: number | null): Promise<Taken> {
  if (what === 'minutes') {
    if (meeting === null || !isMinutesFormat(format)) throw new Refusal('bad-input', `Minutes are not written as ${format}.`);
    const version = (await minutesOf(ws, meeting)).versions.at(-1)?.version ?? null;
    return withBody(await minutesFile(ws, meeting, format, version));
  }
  if (!isLedgerFormat(format)) throw new Refusal('bad-input', `The Ledger is not written as ${format}.`);
  const rows = await ledgerRows(ws, { project: ws.project, state: 'open' });
  return withBody({ name: `ledger-${ws.project}-${ws.today}.${format}`, type: LEDGER_FORMATS[format], bytes: new TextEncoder().encode(ledgerFile(rows, format, ws.today)) });
}

const withBody = (f: Omit<Taken, 'body'>): Taken => ({ ...f, body: /^text\/|json/.test(f.type) ? { text: new TextDecoder().decode(f.bytes) } : { base64: Buffer.from(f.bytes).toString('base64') } });
