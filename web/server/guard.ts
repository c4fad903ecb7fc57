/** What a request is, as far as it decides whether it is let in. */
export interface Asking {
  readonly method: string;
  readonly path: string;
  readonly host: string | null;
  readonly origin: string | null;
  /** What a browser says of where a request comes from; null: no browser, or an old one. */
  readonly fetchSite: string | null;
}

/** Name of a Host header without its port, in lower case; null where it is none. */
export function hostName(host: string | null): string | null {
  const found = /^(\[[0-9a-fA-F:.]+\]|[A-Za-z0-9.-]+)(?::\d{1,5})?$/.exec(host ?? "");
  return found ? found[1].toLowerCase().replace(/\.$/, "") : null;
}

const LOOPBACK = /^(localhost|127(?:\.\d{1,3}){3}|\[::1\])$/;
const READS = ["GET", "HEAD"];
const METHODS = [...READS, "POST", "DELETE"];

/** Names under which this server may be asked besides the loopback ones: ARROYO_HOSTS, with commas. */
export const configuredHosts = (text: string | undefined): string[] =>
  (text ?? "")
    .split(",")
    .map((h) => h.trim().toLowerCase())
    .filter((h) => h !== "");

/**
 * Why a request is not let in, with its status; null: it is. A page of another origin can make a browser send requests
 * here: they are told by `Host` (a name that was pointed at this machine), by `Origin` and by `Sec-Fetch-Site`.
 */
export function refusal(r: Asking, hosts: readonly string[]): { readonly status: number; readonly message: string } | null {
  const name = hostName(r.host);
  if (name === null || (!LOOPBACK.test(name) && !hosts.includes(name)))
    return { status: 421, message: "This server is not asked under this name. Name it in ARROYO_HOSTS to allow it." };
  if (!METHODS.includes(r.method)) return { status: 405, message: `${r.method.slice(0, 20)} is not answered here.` };
  try {
    decodeURIComponent(r.path);
  } catch {
    return { status: 400, message: "This address holds a % that encodes nothing." };
  }
  const foreign = { status: 403, message: "Only Arroyo's own pages may change anything here." };
  if (!READS.includes(r.method)) {
    if (r.origin !== null && !sameOrigin(r.origin, r.host)) return foreign;
    if (r.fetchSite !== null && r.fetchSite !== "same-origin" && r.fetchSite !== "none") return foreign;
  } else if (r.path.startsWith("/api/") && (r.fetchSite === "cross-site" || r.fetchSite === "same-site"))
    return { status: 403, message: "Only Arroyo's own pages may read this." };
  return null;
}

function sameOrigin(origin: string, host: string | null): boolean {
  try {
    const from = new URL(origin);
    // both without a port that goes without saying
    return from.host === new URL(`${from.protocol}//${host ?? ""}`).host;
  } catch {
    return false;
  }
}

/** The policy of a page: scripts only by its nonce and what they load, workers and data from here, no frame anywhere. */
export function contentPolicy(nonce: string): string {
  return [
    "default-src 'none'",
    // 'wasm-unsafe-eval': the step's kernel and the reader of IFC are WebAssembly
    `script-src 'self' 'nonce-${nonce}' 'strict-dynamic' 'wasm-unsafe-eval'`,
    // the component library writes its rules into the page as it draws
    "style-src 'self' 'unsafe-inline'",
    "img-src 'self' data: blob:",
    "font-src 'self'",
    "connect-src 'self'",
    "worker-src 'self' blob:",
    "manifest-src 'self'",
    "base-uri 'none'",
    "form-action 'none'",
    "frame-ancestors 'none'",
    "object-src 'none'",
  ].join("; ");
}

/** Headers of everything that is answered. */
export const commonHeaders: Readonly<Record<string, string>> = {
  "x-content-type-options": "nosniff",
  "referrer-policy": "no-referrer",
  "x-frame-options": "DENY",
  "cross-origin-opener-policy": "same-origin",
  "cross-origin-resource-policy": "same-origin",
  "permissions-policy": "camera=(), geolocation=(), microphone=()",
};
