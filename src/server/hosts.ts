const hostOf = (url: string | undefined) => {
  try {
    return url ? new URL(url).hostname : null;
  } catch {
    return null;
  }
};

/** Names this server answers to: those of this machine, the one of the public address (`OTTIK_URL`), and those of `OTTIK_HOSTS`, with a comma between. */
const HOSTS = new Set(['localhost', '127.0.0.1', '[::1]', hostOf(process.env.OTTIK_URL), ...(process.env.OTTIK_HOSTS ?? '').split(',').map((h) => h.trim())].flatMap((h) => (h ? [h.toLowerCase()] : [])));

/**
 * Whether a request asks for a host that this server is. A page of another site that has its own name resolve to this machine
 * (DNS rebinding) asks for that name, and gets nothing: no page, no file, no answer.
 */
export const isOurs = (host: string | null): boolean => HOSTS.has((host ?? '').replace(/:\d{1,5}$/, '').toLowerCase());

/** Headers that every answer has (OWASP Secure Headers Project, its recommended list). Pages have a policy of their contents besides. */
export const SECURITY: Readonly<Record<string, string>> = {
  'content-security-policy': "frame-ancestors 'none'; object-src 'none'; base-uri 'none'; form-action 'self'",
  'x-content-type-options': 'nosniff',
  'x-frame-options': 'DENY',
  'referrer-policy': 'same-origin',
  'cross-origin-opener-policy': 'same-origin',
  'cross-origin-resource-policy': 'same-origin',
  'permissions-policy': 'camera=(), microphone=(), geolocation=(), payment=(), usb=()',
  ...(process.env.OTTIK_URL?.startsWith('https:') ? { 'strict-transport-security': 'max-age=31536000' } : {}),
};
