import { defineConfig } from "vitest/config";

const patient = { testTimeout: 180000, hookTimeout: 180000 };

// Limits of time end what hangs, not what is slow: a shared machine is a third as fast for minutes on end. Speed is for `npm run bench`.
export default defineConfig({
  test: {
    // by itself it would leave a core of a small machine unused
    maxWorkers: "100%",
    projects: [
      {
        test: {
          ...patient,
          name: "core",
          setupFiles: ["scripts/lib/seed.ts"],
          // files share what a worker has loaded: loading the core for each took a third of the time. What a file installs it takes out again.
          isolate: false,
          include: ["core/**/*.test.ts", "adapters/**/*.test.ts", "cli/**/*.test.ts", "demo/**/*.test.ts"],
        },
      },
      {
        // these put other modules and globals in place of the page's own
        test: {
          ...patient,
          name: "screens",
          setupFiles: ["scripts/lib/seed.ts"],
          include: ["web/live/**/*.test.ts", "web/ui/**/*.test.ts", "web/features/**/*.test.{ts,tsx}"],
        },
      },
      { test: { ...patient, name: "server", include: ["web/server/**/*.test.ts", "runner/**/*.test.ts"], fileParallelism: false } },
      { test: { ...patient, name: "browser", include: ["e2e/**/*.test.ts"], testTimeout: 360000, hookTimeout: 360000 } },
    ],
  },
});
