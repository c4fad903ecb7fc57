import { NextResponse, type NextRequest } from "next/server";
import { commonHeaders, configuredHosts, contentPolicy, refusal } from "./server/guard.ts";

/** Every request passes here first: who asks, and under which name; every answer leaves with the same headers. */
export function proxy(request: NextRequest): NextResponse {
  const { headers } = request;
  const asking = {
    method: request.method,
    path: request.nextUrl.pathname,
    host: headers.get("host"),
    origin: headers.get("origin"),
    fetchSite: headers.get("sec-fetch-site"),
  };
  const no = refusal(asking, configuredHosts(process.env.ARROYO_HOSTS));
  if (no) return withHeaders(NextResponse.json({ message: no.message, problems: [] }, { status: no.status }));
  if (asking.path.startsWith("/api/")) {
    const answer = withHeaders(NextResponse.next());
    // a kept image says by itself what it may do
    if (!asking.path.startsWith("/api/blobs/")) answer.headers.set("content-security-policy", "default-src 'none'; frame-ancestors 'none'; sandbox");
    return answer;
  }
  const nonce = btoa(crypto.randomUUID());
  const policy = contentPolicy(nonce);
  const passed = new Headers(headers);
  passed.set("x-nonce", nonce);
  // the framework takes the nonce of its own scripts from here
  passed.set("content-security-policy", policy);
  const answer = withHeaders(NextResponse.next({ request: { headers: passed } }));
  answer.headers.set("content-security-policy", policy);
  return answer;
}

function withHeaders(answer: NextResponse): NextResponse {
  for (const [name, value] of Object.entries(commonHeaders)) answer.headers.set(name, value);
  return answer;
}
