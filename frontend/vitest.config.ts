import { defineConfig } from "vitest/config";

// The components ask the real application, which runs at this port as long as the tests do; it is none that a system gives to
// whoever asks for a free one.
const PORT = 20_000 + (process.pid % 10_000);

export default defineConfig({
  test: {
    projects: [
      { test: { name: "functions", include: ["tests/*.test.ts"], environment: "node" } },
      {
        test: {
          name: "components",
          include: ["tests/components/*.test.tsx"],
          environment: "happy-dom",
          environmentOptions: { happyDOM: { url: `http://127.0.0.1:${PORT}/` } },
          globalSetup: "tests/components/application.ts",
          setupFiles: "tests/components/before-each.ts",
          provide: { port: PORT },
          fileParallelism: false,
          testTimeout: 120_000,
          hookTimeout: 120_000,
        },
      },
    ],
  },
});
