import path from "node:path";
import type { NextConfig } from "next";

const config: NextConfig = {
  transpilePackages: ["@arroyo/core", "@arroyo/adapters"],
  serverExternalPackages: ["sequelize", "pg", "pg-hstore", "pg-boss", "umzug"],
  turbopack: { root: path.join(import.meta.dirname, "..") },
  poweredByHeader: false,
  // a body passes the proxy whole; our own limit (32 MB) speaks first
  experimental: { proxyClientMaxBodySize: "40mb" },
  devIndicators: false,
};
export default config;
