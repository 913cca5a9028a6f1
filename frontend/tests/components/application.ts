import { spawn } from "node:child_process";
import { resolve } from "node:path";
import type { TestProject } from "vitest/node";

declare module "vitest" {
  export interface ProvidedContext {
    port: number;
  }
}

/** Starts the real application for the component tests, and ends it after them. */
export default async function serve(project: TestProject) {
  const { port } = project.config.provide as { port: number };
  const root = resolve(import.meta.dirname, "../../..");
  const application = spawn(`${root}/.venv/bin/python`, ["-m", "tests.served_for_components", String(port)], {
    cwd: root,
    stdio: ["ignore", "ignore", "inherit"],
  });
  const answers = () =>
    fetch(`http://127.0.0.1:${port}/api/studies`).then(
      (answer) => answer.ok,
      () => false,
    );
  while (!(await answers())) {
    if (application.exitCode !== null) throw new Error("The application did not start.");
    await new Promise((tried) => setTimeout(tried, 100));
  }
  return () => void application.kill();
}
