import path from "node:path";
import type { NextConfig } from "next";

const config: NextConfig = {
  transpilePackages: ["@arroyo/core", "@arroyo/adapters"],
  serverExternalPackages: ["sequelize", "pg", "pg-hstore", "pg-boss", "umzug"],
  turbopack: { root: path.join(import.meta.dirname, "..") },
  poweredByHeader: false,
  devIndicators: false,
};
export default config;
