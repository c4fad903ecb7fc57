import { defineConfig } from "vitest/config";

export default defineConfig({
  test: {
    projects: [
      {
        test: {
          name: "core",
          setupFiles: ["scripts/lib/seed.ts"],
          include: [
            "core/**/*.test.ts",
            "adapters/**/*.test.ts",
            "cli/**/*.test.ts",
            "demo/**/*.test.ts",
            "web/live/**/*.test.ts",
            "web/ui/**/*.test.ts",
            "web/features/**/*.test.ts",
          ],
          testTimeout: 60000,
        },
      },
      { test: { name: "server", include: ["web/server/**/*.test.ts", "runner/**/*.test.ts"], testTimeout: 60000, hookTimeout: 60000, fileParallelism: false } },
      { test: { name: "browser", include: ["e2e/**/*.test.ts"], testTimeout: 120000, hookTimeout: 120000, fileParallelism: false } },
    ],
  },
});
