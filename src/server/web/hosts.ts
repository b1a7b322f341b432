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

const NOBODY_ELSE = "frame-ancestors 'none'; object-src 'none'; base-uri 'none'; form-action 'self'";

/** What a page may load besides its own scripts and styles, which it names by their hashes. Widths and places are said in style attributes. */
const PAGE = `default-src 'self'; img-src 'self' data:; style-src-attr 'unsafe-inline'; ${NOBODY_ELSE}`;

/** What a file or an answer may load that a browser opens by itself: nothing. A drawing brings its own styles. */
const FILE = `default-src 'none'; style-src 'unsafe-inline'; img-src data:; ${NOBODY_ELSE}`;

/**
 * The content policy of an answer.
 * @param own what a page says of its scripts and styles; null for everything that is no page
 */
export const contentPolicy = (own: string | null): string => (own ? `${PAGE}; ${own}` : FILE);

/** Headers that every answer has (OWASP Secure Headers Project, its recommended list), beside {@link contentPolicy}. */
export const SECURITY: Readonly<Record<string, string>> = {
  'x-content-type-options': 'nosniff',
  'x-frame-options': 'DENY',
  'referrer-policy': 'same-origin',
  'cross-origin-opener-policy': 'same-origin',
  'cross-origin-resource-policy': 'same-origin',
  'permissions-policy': 'camera=(), microphone=(), geolocation=(), payment=(), usb=()',
  ...(process.env.OTTIK_URL?.startsWith('https:') ? { 'strict-transport-security': 'max-age=31536000' } : {}),
};
