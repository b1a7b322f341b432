import { readFileSync } from 'node:fs';
import { join } from 'node:path';
import { SMTPServer, type SMTPServerOptions } from 'smtp-server';
import { afterEach, describe, expect, it } from 'vitest';
import { type MailSettings, type Message, smtpMailer } from '../../../src/server/letters/mailer.ts';

/** A server of the smtp-server package behind a certificate made for this test alone (self-signed, for localhost). */
const pem = (name: string) => readFileSync(join(import.meta.dirname, 'certificate', name), 'utf8');
let server: SMTPServer | null = null;
afterEach(async () => {
  await new Promise<void>((done) => (server ? server.close(() => done()) : done()));
  server = null;
});

interface Got {
  /** whether the connection was protected when the message came, and who had logged in */
  secure: boolean;
  user: unknown;
  source: string;
}

async function serve(options: SMTPServerOptions): Promise<{ port: number; got: Got[] }> {
  const got: Got[] = [];
  server = new SMTPServer({
    key: pem('key.pem'),
    cert: pem('cert.pem'),
    onAuth: (auth, _, done) => (auth.username === 'ottik' && auth.password === 'open sesame' ? done(null, { user: auth.username }) : done(new Error('535 no'))),
    onData(stream, session, done) {
      let source = '';
      stream.on('data', (b: Buffer) => {
        source += b.toString();
      });
      stream.on('end', () => {
        got.push({ secure: session.secure, user: session.user, source });
        done();
      });
    },
    ...options,
  });
  server.on('error', () => undefined);
  const port = await new Promise<number>((done) => {
    const s = server!.listen(0, '127.0.0.1', () => done((s.address() as { port: number }).port));
  });
  return { port, got };
}

const MESSAGE: Message = { messageId: '<1.test@ottik.example>', from: { name: 'Ines', address: 'ines@x.example' }, to: { name: 'Bram', address: 'bram@x.example' }, replyTo: 'answers@x.example', subject: 'Plinth', text: 'Poured?', html: '<p>Poured?</p>' };
const settings = (port: number, more: Partial<MailSettings> = {}): MailSettings => ({ host: 'localhost', port, patience: 4000, user: 'ottik', password: 'open sesame', authority: pem('cert.pem'), ...more });

describe('a mail server that wants a protected connection and a login', () => {
  it.each([
    ['from the first byte', { secure: true }, { security: 'tls' as const }],
    ['after STARTTLS (RFC 3207)', {}, { security: 'starttls' as const }],
  ])('gets both, %s', async (_, options, more) => {
    const { port, got } = await serve(options);
    await smtpMailer(settings(port, more)).send(MESSAGE);
    expect(got).toHaveLength(1);
    expect(got[0]).toMatchObject({ secure: true, user: 'ottik' });
    expect(got[0]!.source).toContain('Subject: Plinth');
  });
  it('and gets nothing where the login is wrong: all letters wait', async () => {
    const { port, got } = await serve({});
    await expect(smtpMailer(settings(port, { security: 'starttls', password: 'guess' })).send(MESSAGE)).rejects.toMatchObject({ message: expect.stringContaining('does not accept the login'), everyone: true, temporary: true });
    expect(got).toHaveLength(0);
  });
  it('and gets nothing where nobody vouches for its certificate', async () => {
    const { port, got } = await serve({ secure: true });
    await expect(smtpMailer(settings(port, { security: 'tls', authority: undefined })).send(MESSAGE)).rejects.toMatchObject({ message: expect.stringContaining('not one to be trusted'), everyone: true });
    await expect(smtpMailer(settings(port, { security: 'tls', host: '127.0.0.1' })).send(MESSAGE)).rejects.toThrow('not one to be trusted');
    expect(got).toHaveLength(0);
  });
  it('and a server without protection gets neither login nor letter where protection is asked for', async () => {
    const { port, got } = await serve({ hideSTARTTLS: true, disabledCommands: ['STARTTLS'], allowInsecureAuth: true });
    await expect(smtpMailer(settings(port, { security: 'starttls' })).send(MESSAGE)).rejects.toMatchObject({ everyone: true });
    expect(got).toHaveLength(0);
  });
});
