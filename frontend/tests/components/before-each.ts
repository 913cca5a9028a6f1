import { cleanup, configure } from "@testing-library/react";
import { afterEach, beforeEach } from "vitest";

// The machines that run this are slow at times; nothing here measures speed.
configure({ asyncUtilTimeout: 30_000, defaultHidden: true });

beforeEach(async () => {
  localStorage.clear();
  await fetch(`${window.location.origin}/anew`, { method: "POST" });
});
afterEach(cleanup);
