import { screen, waitFor, within } from "@testing-library/react";
import { describe, expect, it } from "vitest";

import type { StudyView } from "../../src/api/client";
import { useStudy } from "../../src/api/hooks";
import { Selection } from "../../src/grid/selection";
import { usePlanDraft } from "../../src/plan/plan-draft";
import { PlanPanel } from "../../src/plan/plan-panel";
import { choose, dialog, fill, press, says, show, smallStudy, stored, user } from "./shown";

const selection = new Selection();

function Plan({ id }: { id: number }) {
  const study = useStudy(id).data;
  return study ? <Panel study={study} /> : null;
}

const Panel = ({ study }: { study: StudyView }) => (
  <PlanPanel
    study={study}
    draft={usePlanDraft(study)}
    selection={selection}
    chosen={study.grid.cells.filter((cell) => selection.keys.has(cell.key))}
    onGone={() => undefined}
    onCopied={() => undefined}
  />
);

/** The panel of a new study, at one of its tabs. */
async function shown(tab?: string): Promise<number> {
  selection.replace([]);
  const id = await smallStudy();
  show(<Plan id={id} />);
  await screen.findByRole("tab", { name: "Cross" });
  if (tab) await user.click(screen.getByRole("tab", { name: tab }));
  return id;
}

const planOf = async (id: number) => (await stored<{ plan: StudyView["plan"] }>(`/api/studies/${id}`)).plan;

/** Opens the field for a level that is no usual one. */
async function anotherValue(factor: string) {
  await user.click(within(await screen.findByLabelText(`Add a level of ${factor}`)).getByRole("combobox"));
  await user.click(await screen.findByRole("option", { name: /^Another value/ }));
}

describe("what is left out", () => {
  it("is proposed, taken, shown in the grid and taken away", async () => {
    await shown("Leave out");
    await press("Leave out alum-hot on cellulose fibre");
    await says("14 swatches");
    await press("Show 4 cells");
    expect(selection.keys.size).toBe(4);
    await press("Take the rule away");
    await says("18 swatches");
  });

  it("by a rule of one's own needs levels and keeps its reason", async () => {
    await shown("Leave out");
    await press("New rule");
    const form = within(await screen.findByRole("form", { name: "New rule" }));
    expect(form.getByRole<HTMLButtonElement>("button", { name: "Leave these out" }).disabled).toBe(true);
    await choose("Dye pH", "ph 9", form);
    await choose("Class of fibre", "cellulose", form);
    await fill("Reason", "Done last year.", form);
    await press("Leave these out", form);
    await says("ph 9 with cellulose fibre.");
    await says("Done last year.");
    await says("14 swatches");
  });
});

describe("what the grid can tell", () => {
  it("changes with second pots and with noise of one's own", async () => {
    await shown("Tell");
    // One pot a level is told against how pots usually differ, and what one more would make of it.
    await says("shows differences from 7.4 ΔE00 on");
    await says("usual values, common practice");
    await fill("Swatches of each cell", "2");
    await press("All in one pot");
    await screen.findByRole("button", { name: "Each in its own run" });
    await says("shows differences from 5.2 ΔE00 on");
    await fill("Vessel from vessel", "3");
    await says("your own figures");
  });

  it("fits a budget that can be taken and undone", async () => {
    await shown("Tell");
    await press("Fit it to a budget");
    const asked = await dialog();
    await fill("At most so many swatches", "3", asked);
    await press("Choose the cells", asked);
    expect((await asked.findByRole("alert")).textContent).toContain("cannot tell");
    await fill("At most so many swatches", "12", asked);
    await press("Choose the cells", asked);
    await asked.findByText(/10 cells and 2 controls/);
    await press("Take this choice", asked);
    await says("12 swatches");
    await press("Undo");
    await says("18 swatches");
  });
});

describe("levels", () => {
  it("have values of one's own, iron by its route, and refuse what cannot be", async () => {
    await shown();
    await anotherValue("Dye pH");
    await fill("Dye pH, pH", "6,5");
    await press("Add");
    await screen.findByText("pH 6.5");
    await anotherValue("Iron");
    await fill("Iron, % WOF", "2");
    await choose("Route", "in the pot");
    await press("Add");
    await screen.findByText("Iron 2 % in the pot");
    await anotherValue("Dye pH");
    await fill("Dye pH, pH", "44");
    await press("Add");
    expect((await screen.findByRole("alert")).textContent).toContain("a pH from 1 to 13");
    expect(screen.getByText("pH 6.5")).toBeTruthy();
  });

  it("of time are typed as they are said", async () => {
    await shown();
    await choose("Cross with another factor", "Duration");
    const group = within(await screen.findByRole("group", { name: "Duration" }));
    await anotherValue("Duration");
    await fill("Duration", "half a day", group);
    await group.findByText("Say it as 45 min, 2 h, 3 days or 2 weeks.");
    expect(group.getByRole<HTMLButtonElement>("button", { name: "Add" }).disabled).toBe(true);
    await fill("Duration", "2.5 days", group);
    await group.findByText(/2 days 12 h/);
    await press("Add", group);
    await group.findByRole("button", { name: "Remove 2 days 12 h" });
  });
});

describe("vessels", () => {
  it("say what another choice costs and can be shuffled", async () => {
    await shown("Vessels");
    await screen.findByRole("heading", { name: "Vessels: 4, 5.8 L" });
    await says("would take 2 vessels more");
    await press("Choose that");
    await screen.findByRole("heading", { name: "Vessels: 6, 5.8 L" });
    await press("Shuffle again");
    await says("Seed 2.");
  });
});

describe("masses", () => {
  it("are others for some, and a full skein stays in the pot", async () => {
    const id = await shown();
    await press("Another mass for some");
    const some = within(await screen.findByRole("group", { name: "Another mass for some" }));
    await choose("Fibre", "Cotton", some);
    await fill("g each", "3,5", some);
    await press("Weigh them so", some);
    await press("A larger piece in the pot");
    const larger = within(await screen.findByRole("group", { name: "A larger piece in the pot" }));
    await fill("g", "60", larger);
    await press("Put it in", larger);
    await waitFor(async () => {
      const plan = await planOf(id);
      expect(plan).toMatchObject({ own_masses: [{ fibre: "cotton", mass_g: 3.5 }], larger_pieces: [{ mass_g: 60 }] });
    });
  });
});

describe("a step", () => {
  it("is undone and redone", async () => {
    const id = await shown();
    await press(/do not cross Iron/);
    await press("Take it out");
    await says("10 swatches, 3 vessels");
    await press("Undo");
    await says("18 swatches, 4 vessels");
    expect((await planOf(id)).factors).toHaveLength(5);
    await press("Redo");
    await says("10 swatches, 3 vessels");
  });
});
