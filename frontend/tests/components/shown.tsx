import { QueryClient, QueryClientProvider } from "@tanstack/react-query";
import { fireEvent, render, screen, waitFor, within } from "@testing-library/react";
import userEvent from "@testing-library/user-event";
import type { ReactNode } from "react";
import { expect } from "vitest";

/** A part of the screen as the application shows it, asking the real server. */
export function show(part: ReactNode) {
  const queries = new QueryClient({ defaultOptions: { queries: { retry: false } } });
  render(<QueryClientProvider client={queries}>{part}</QueryClientProvider>);
}

export const user = userEvent.setup({ delay: null });

type Name = string | RegExp;

/** Presses a button as soon as it can be pressed. */
export async function press(name: Name, inside = screen as ReturnType<typeof within>) {
  const button = await inside.findByRole("button", { name });
  await waitFor(() => expect((button as HTMLButtonElement).disabled).toBe(false));
  await user.click(button);
}

/** Writes into a field by its label, over what stood there, and leaves it. */
export async function fill(label: Name, text: string, inside = screen as ReturnType<typeof within>) {
  const field = await inside.findByLabelText(label);
  fireEvent.change(field, { target: { value: text } });
  fireEvent.blur(field);
}

/** Takes one of the choices of a list by its label, and closes it. */
export async function choose(label: Name, option: Name, inside = screen as ReturnType<typeof within>) {
  await user.click(await inside.findByLabelText(label));
  await user.click(await screen.findByRole("option", { name: option }));
  if (screen.queryByRole("listbox")) await user.keyboard("{Escape}");
}

/** Waits until words stand on the screen, whatever elements they are spread over. */
export const says = async (words: string) => waitFor(() => expect(document.body.textContent).toContain(words));

export const dialog = async () => within(await screen.findByRole("dialog"));

/** A small study, made on the server; its number. */
export async function smallStudy(): Promise<number> {
  const answer = await fetch(`${window.location.origin}/small`, { method: "POST" });
  return ((await answer.json()) as { id: number }).id;
}

/** What the server has now. */
export const stored = async <Said,>(path: string) =>
  (await (await fetch(`${window.location.origin}${path}`)).json()) as Said;
