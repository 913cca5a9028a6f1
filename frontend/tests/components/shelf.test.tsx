import { screen, waitFor, within } from "@testing-library/react";
import { describe, expect, it } from "vitest";

import type { Schema } from "../../src/api/client";
import { ShelfView } from "../../src/shelf/shelf-view";
import { UndoBar } from "../../src/shell/undo-bar";
import { dialog, fill, press, show, smallStudy, stored, user } from "./shown";

type Shelf = Schema["Shelf"];

const open = async (tab: string, button: string | RegExp) => {
  show(<ShelfView />);
  await user.click(await screen.findByRole("tab", { name: tab }));
  await press(button);
  return dialog();
};

const KINDS = [
  ["Vessels", "vessel", "Preserving pan", { Litres: "9,5" }, "9.5 L"],
  ["Heat places", "heat place", "Wood stove", { "Power, W": "3000" }, "3000 W"],
  ["Scales", "scale", "Letter scale", { "Shows steps of, g": "0.5" }, "steps of 0.5 g"],
  ["Water", "water", "Rain butt", { pH: "5.6" }, "pH 5.6"],
  ["Mordants, adjusters, modifiers", "substance", "Oak gall", { "A level teaspoon, g": "2" }, "2 g a teaspoon"],
] as const;

describe("a thing on the Shelf", () => {
  it.each(KINDS)("of %s is put there with its facts", async (tab, one, name, facts, shown) => {
    const asked = await open(tab, `New ${one}`);
    await press(`Put the ${one} on the Shelf`, asked);
    expect(await asked.findByText("It needs a name.")).toBeTruthy();
    await fill(/^Name/, name, asked);
    for (const [label, value] of Object.entries(facts)) await fill(label, value, asked);
    await press(`Put the ${one} on the Shelf`, asked);
    const line = (await screen.findByRole("button", { name })).parentElement;
    await waitFor(() => expect(line?.textContent).toContain(shown));
  });

  it("is refused at the field that is wrong, and what was typed stays", async () => {
    const asked = await open("Vessels", "New vessel");
    await fill(/^Name/, "Sieve", asked);
    await fill("Litres", "-2", asked);
    await press("Put the vessel on the Shelf", asked);
    expect(await asked.findByText(/greater than 0/)).toBeTruthy();
    expect(asked.getByLabelText<HTMLInputElement>("Litres").value).toBe("-2");
  });

  it("says at its field what is no number or taken already", async () => {
    const asked = await open("Fibres", "New fibre");
    await fill("g/m²", "abc", asked);
    await fill("In hand, g", "-5", asked);
    await press("Put the fibre on the Shelf", asked);
    expect(await asked.findByText("It needs a name.")).toBeTruthy();
    expect(asked.getByText("It must be a number, such as 180 or 1.5.")).toBeTruthy();
    await fill(/^Name/, "Wool", asked);
    await fill("g/m²", "180,5", asked);
    await press("Put the fibre on the Shelf", asked);
    // What only the server knows is said at the field too, and nothing typed is lost.
    expect(await asked.findByText(/Not so: input should be greater/)).toBeTruthy();
    await fill("In hand, g", "5", asked);
    await press("Put the fibre on the Shelf", asked);
    expect(await asked.findByText(/This is already on the Shelf/)).toBeTruthy();
    await fill(/^Name/, "Nettle", asked);
    await press("Put the fibre on the Shelf", asked);
    await waitFor(() => expect(screen.queryByRole("dialog")).toBeNull());
    const { fibres } = await stored<Shelf>("/api/shelf");
    expect(fibres.find((one) => one.name === "Nettle")).toMatchObject({ mass_g_m2: 180.5, amount_in_hand_g: 5 });
  });

  it("is a blend only where its parts add up", async () => {
    const asked = await open("Fibres", "New fibre");
    await fill(/^Name/, "Linsey", asked);
    await press("Add a part", asked);
    await fill("%", "60", asked);
    await press("Put the fibre on the Shelf", asked);
    expect((await asked.findByRole("alert")).textContent).toContain("add up to 100");
    await press("Add a part", asked);
    await press("Put the fibre on the Shelf", asked);
    expect(await screen.findByText(/60 % protein, 40 % protein/)).toBeTruthy();
  });
});

describe("what is on the Shelf", () => {
  it("is retired where it is used, else taken away and put back", async () => {
    await smallStudy();
    show(
      <>
        <ShelfView />
        <UndoBar />
      </>,
    );
    await press("Wool");
    let asked = await dialog();
    await press("Take it away", asked);
    expect((await asked.findByRole("alert")).textContent).toContain("It is used by “Small”");
    await press("Retire", asked);
    await waitFor(() => expect(screen.queryByRole("button", { name: "Wool" })).toBeNull());
    await user.click(screen.getByLabelText("Show what is retired"));
    expect(await screen.findByRole("button", { name: "Wool (retired)" })).toBeTruthy();
    await press("Ramie");
    asked = await dialog();
    await press("Take it away", asked);
    await waitFor(() => expect(screen.queryByRole("button", { name: "Ramie" })).toBeNull());
    await press("Undo");
    expect(await screen.findByRole("button", { name: "Ramie" })).toBeTruthy();
  });
});

describe("a mordant route", () => {
  it("is made of baths, and a refused one says why", async () => {
    const asked = await open("Mordant routes", "New mordant route");
    await fill(/^Name/, "Tin bloom", asked);
    await press("Add a bath", asked);
    await fill("Dose, % WOF", "12", asked);
    await press("Put the mordant route on the Shelf", asked);
    expect((await asked.findByRole("alert")).textContent).toContain("make fibre brittle");
    await fill(/^Name/, "Alum, gentle", asked);
    await press("Put the mordant route on the Shelf", asked);
    expect(await screen.findByRole("button", { name: "Alum, gentle" })).toBeTruthy();
    expect(screen.getByText(/potassium alum 12 %/)).toBeTruthy();
  });

  it("keeps the times of its other baths where one is taken away", async () => {
    const asked = await open("Mordant routes", "New mordant route");
    for (const [number, time] of [
      [1, "12 h"],
      [2, "45 min"],
    ] as const) {
      await press("Add a bath", asked);
      await fill("Time", time, within(await asked.findByRole("group", { name: `Bath ${number}` })));
    }
    await press("remove", within(asked.getByRole("group", { name: "Bath 1" })));
    await waitFor(() => expect(asked.queryByRole("group", { name: "Bath 2" })).toBeNull());
    expect(asked.getByLabelText<HTMLInputElement>("Time").value).toBe("45 min");
  });

  it("keeps no dose that cannot be read as none", async () => {
    const asked = await open("Mordant routes", "Alum, hot");
    await fill("Dose, % WOF", "much", asked);
    expect(await asked.findByText("It must be a number.")).toBeTruthy();
    expect(asked.getByRole<HTMLButtonElement>("button", { name: "Save" }).disabled).toBe(true);
    await fill("Dose, % WOF", "12,5", asked);
    await press("Save", asked);
    await waitFor(() => expect(screen.queryByRole("dialog")).toBeNull());
    const shelf = await stored<Shelf>("/api/shelf");
    const hot = shelf.mordant_routes.find((one) => one.key === "alum-hot");
    expect(hot?.baths[0]).toMatchObject({ dose_percent_wof: 12.5 });
  });
});
