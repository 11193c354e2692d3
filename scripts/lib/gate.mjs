import { randomBytes, randomUUID } from 'node:crypto';

/*
 * The gate: everything that is asked of the server passes it before the application sees it. Who may ask (host and
 * origin), what may be asked (method, address), and what every answer says to the browser.
 */

const METHODS = ['GET', 'HEAD', 'POST', 'OPTIONS'];
const LOOPBACK = ['127.0.0.1', 'localhost', '[::1]'];
const LONGEST_ADDRESS = 4096;

/**
 * Hosts and origins under which this application may be reached: loopback on its port, and the address that it was
 * given for tablets and QR codes.
 */
export function allowedPlaces(port, address) {
  const origins = new Set(LOOPBACK.map((host) => new URL(`http://${host}:${port}`).origin));
  if (address) origins.add(new URL(address).origin);
  return { origins, hosts: new Set([...origins].map((origin) => new URL(origin).host)) };
}

/** Why a request is not let in: status, code and message; null when it is. */
export function refusedAtGate({ method, url, headers, rawHeaders = [] }, { origins, hosts }) {
  if (!METHODS.includes(method))
    return [405, 'no-such-method', `Use ${METHODS.join(', ')}.`, { Allow: METHODS.join(', ') }];
  if (rawHeaders.filter((name, i) => i % 2 === 0 && name.toLowerCase() === 'host').length > 1)
    return [400, 'two-hosts', 'A request names one host.'];
  if (!hosts.has((headers.host ?? '').toLowerCase()))
    return [
      421,
      'wrong-host',
      `This server is not reached under that name. Use ${[...origins].at(-1)}, or set RED_PLUMB_ADDRESS.`,
    ];
  if (url.length > LONGEST_ADDRESS) return [414, 'address-too-long', 'This address is too long.'];
  if (!decodable(url)) return [400, 'not-an-address', 'This address cannot be decoded; check its % signs.'];
  const { origin } = headers;
  const changes = method === 'POST';
  if (changes && origin !== undefined && !origins.has(origin))
    return [403, 'foreign-origin', 'A page from elsewhere may not change anything here.'];
  // Pages and their actions are the browser's, and a browser always says where it comes from.
  if (changes && origin === undefined && !url.startsWith('/api/'))
    return [403, 'no-origin', 'Say where this comes from: the header “Origin” is missing.'];
  return null;
}

function decodable(url) {
  const path = url.split('?')[0];
  if (!path.startsWith('/')) return false;
  try {
    return !decodeURIComponent(path).includes('\0');
  } catch {
    return false;
  }
}

/** A number for this request and a nonce for its scripts. */
export const requestMarks = () => ({ id: randomUUID(), nonce: randomBytes(16).toString('base64') });

/** What every answer says: no framing, no guessing of types, scripts of our own only. */
export function answerHeaders(url, { id, nonce }, dev) {
  return {
    'Content-Security-Policy': policy(url, nonce, dev),
    'X-Content-Type-Options': 'nosniff',
    'X-Frame-Options': 'DENY',
    'Referrer-Policy': 'same-origin',
    'Permissions-Policy': 'camera=(), display-capture=(), geolocation=(), microphone=(), payment=(), usb=()',
    'Cross-Origin-Resource-Policy': 'same-origin',
    'X-Request-Id': id,
  };
}

function policy(url, nonce, dev) {
  // A file or an answer for scripts: nothing in it runs, whatever is drawn in it.
  if (url.startsWith('/api/'))
    return "default-src 'none'; style-src 'unsafe-inline'; object-src 'self'; frame-ancestors 'none'";
  // Scripts of workers keep to themselves and fetch nothing from elsewhere.
  if (url.startsWith('/_next/'))
    return `default-src 'self'${dev ? " 'unsafe-eval'" : ''}; object-src 'none'; frame-ancestors 'none'`;
  return [
    "default-src 'self'",
    `script-src 'self' 'nonce-${nonce}' 'strict-dynamic'${dev ? " 'unsafe-eval'" : ''}`,
    "style-src 'self' 'unsafe-inline'",
    "img-src 'self' data: blob:",
    "worker-src 'self' blob:",
    `connect-src 'self'${dev ? ' ws:' : ''}`,
    "object-src 'none'",
    "base-uri 'none'",
    "form-action 'self'",
    "frame-ancestors 'none'",
  ].join('; ');
}
