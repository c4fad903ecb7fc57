import { describe, expect, it } from "vitest";
import { configuredHosts, contentPolicy, hostName, refusal, type Asking } from "./guard.ts";

const own: Asking = { method: "POST", path: "/api/projects", host: "127.0.0.1:3000", origin: "http://127.0.0.1:3000", fetchSite: "same-origin" };
const status = (r: Partial<Asking>, hosts: readonly string[] = []): number => refusal({ ...own, ...r }, hosts)?.status ?? 200;

describe("a request", () => {
  it("of this page, of a terminal and of a link typed by hand is let in", () => {
    expect(status({})).toBe(200);
    expect(status({ origin: null, fetchSite: null })).toBe(200);
    expect(status({ method: "GET", path: "/", origin: null, fetchSite: "none" })).toBe(200);
    // a link in a mail or another page opens a page, and reads nothing else
    expect(status({ method: "GET", path: "/p/library/form", origin: null, fetchSite: "cross-site" })).toBe(200);
    for (const host of ["localhost:3000", "LOCALHOST", "127.0.0.1", "[::1]:3000", "127.1.2.3:80"])
      expect(status({ host, origin: `http://${host.toLowerCase()}` })).toBe(200);
  });
  it("under a name that was pointed at this machine is refused, whatever else it says", () => {
    for (const host of ["evil.example", "localhost.evil.example", "127.0.0.1.evil.example", "evil.example:3000", "192.168.1.7:3000", "", "a b", "[::2]", null])
      expect(status({ host, origin: host === null ? null : `http://${host}` }), String(host)).toBe(421);
  });
  it("under a configured name is let in", () => {
    const hosts = configuredHosts(" arroyo.office.example , 192.168.1.7");
    expect(status({ host: "arroyo.office.example", origin: "http://arroyo.office.example" }, hosts)).toBe(200);
    expect(status({ host: "192.168.1.7:3000", origin: "http://192.168.1.7:3000" }, hosts)).toBe(200);
    expect(status({ host: "office.example", origin: "http://office.example" }, hosts)).toBe(421);
  });
  it("that changes something and comes from a page of another origin, of another port or of none is refused", () => {
    for (const origin of ["http://evil.example", "http://127.0.0.1:3001", "http://localhost:3000", "null", "nonsense"])
      expect(status({ origin }), origin).toBe(403);
    expect(status({ origin: null, fetchSite: "cross-site" })).toBe(403);
    expect(status({ origin: null, fetchSite: "same-site" })).toBe(403);
    expect(status({ method: "DELETE", origin: "http://evil.example" })).toBe(403);
  });
  it("that reads data for a page of another origin is refused", () => {
    expect(status({ method: "GET", origin: null, fetchSite: "cross-site" })).toBe(403);
    expect(status({ method: "GET", origin: null, fetchSite: "same-origin" })).toBe(200);
  });
  it("by a method nobody uses, or to an address that cannot be read, is refused", () => {
    for (const method of ["PUT", "PATCH", "OPTIONS", "TRACE"]) expect(status({ method })).toBe(405);
    expect(status({ method: "GET", path: "/p/%ff/form" })).toBe(400);
  });
});

describe("names and policies", () => {
  it("tells the name of a host from its port", () => {
    expect(hostName("Example.org:80")).toBe("example.org");
    expect(hostName("[::1]:3000")).toBe("[::1]");
    expect(hostName("user@host")).toBeNull();
  });
  it("lets no page be framed and no script in without its nonce", () => {
    const policy = contentPolicy("abc");
    expect(policy).toContain("frame-ancestors 'none'");
    expect(policy).toContain("'nonce-abc'");
    expect(policy.split("; ").find((d) => d.startsWith("script-src"))).not.toContain("unsafe-inline");
  });
});
