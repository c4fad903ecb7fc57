import { defineConfig } from "vitest/config";

// Limits of time end what hangs, not what is slow: a shared machine is a third as fast for minutes on end. Speed is for `npm run bench`.
export default defineConfig({
  test: {
    // by itself it would leave a core of a small machine unused
    maxWorkers: "100%",
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
            "web/features/**/*.test.{ts,tsx}",
          ],
          testTimeout: 180000,
        },
      },
      {
        test: { name: "server", include: ["web/server/**/*.test.ts", "runner/**/*.test.ts"], testTimeout: 180000, hookTimeout: 180000, fileParallelism: false },
      },
      { test: { name: "browser", include: ["e2e/**/*.test.ts"], testTimeout: 360000, hookTimeout: 360000, fileParallelism: false } },
    ],
  },
});
