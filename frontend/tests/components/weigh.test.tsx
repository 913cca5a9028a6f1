import { screen, waitFor } from "@testing-library/react";
import { describe, expect, it } from "vitest";

import type { StudyView } from "../../src/api/client";
import { useStudy } from "../../src/api/hooks";
import { usePlanDraft } from "../../src/plan/plan-draft";
import { WeighPanel } from "../../src/weigh/weigh-panel";
import { fill, press, says, show, smallStudy, stored, user } from "./shown";

function Weigh({ id }: { id: number }) {
  const study = useStudy(id).data;
  return study ? <Panel study={study} /> : null;
}

const Panel = ({ study }: { study: StudyView }) => <WeighPanel study={study} chosen={[]} draft={usePlanDraft(study)} />;

async function shown(tab?: string): Promise<number> {
  const id = await smallStudy();
  show(<Weigh id={id} />);
  await screen.findByRole("heading", { name: "Before the first bath" });
  if (tab) await user.click(screen.getByRole("tab", { name: tab }));
  return id;
}

describe("what is made ready", () => {
  it("opens to its working", async () => {
    await shown();
    await says("Cut and weigh 18 swatches: 108 g of dry fibre");
    await press(/Wool, 9/);
    await says("17.3 × 17.3 cm, in 4 pieces of 8.7 × 8.7 cm");
    await press(/Dried flowers, 1 h at 80 °C/);
    await says("D1 720 mL, D2 720 mL");
  });

  it("asks for stocks where the scale is coarse, and the choice is saved", async () => {
    const id = await shown("Totals");
    await user.click(await screen.findByLabelText(/^Scale/));
    await user.click(await screen.findByRole("option", { name: /^Kitchen scale/ }));
    await waitFor(async () =>
      expect(await stored(`/api/studies/${id}`)).toMatchObject({ plan: { scale: "kitchen-scale" } }),
    );
    await user.click(screen.getByRole("tab", { name: "Make ready" }));
    const stock = await screen.findByRole("button", { name: /iron\(II\) sulphate, 1 %/ });
    expect(stock.textContent).toContain("20.0 g in 200 mL, 6.0 mL of it to 60 mL");
  });
});

describe("the baths", () => {
  it("say from two readings what is still to give", async () => {
    await shown("Baths");
    const bath = await screen.findByRole("region", { name: "D1" });
    await user.click(bath.querySelector("button") as HTMLElement);
    const asks = await screen.findAllByRole("button", { name: "I have two readings" });
    await user.click(asks[asks.length - 1] as HTMLElement);
    const give = await screen.findByRole<HTMLButtonElement>("button", { name: "What is still to give?" });
    expect(give.disabled).toBe(true);
    await fill("pH at first", "6,1");
    await fill("Given, g", "0.3");
    await fill("pH after", "6.9");
    await user.click(give);
    expect((await screen.findByRole("alert")).textContent).toContain("no step towards pH 4");
    await fill("pH after", "5.2");
    await user.click(give);
    await says("as a reading is good to 0.1");
  });
});

describe("the totals", () => {
  it("hold what is used, what it costs and what becomes of it", async () => {
    await shown("Totals");
    expect((await screen.findByRole("button", { name: /potassium alum/ })).textContent).toContain("7.20 g");
    expect(screen.getByRole("row", { name: /^All, with rinsing/ })).toBeTruthy();
    await says("soda until it drops out as rust");
    const cards = screen.getAllByText("iron(II) sulphate");
    await user.click(cards[cards.length - 1] as HTMLElement);
    await says("dangerous to small children");
  });

  it("lead to the papers for the bench", async () => {
    await shown();
    for (const [name, start] of [
      [/^Bench papers \(PDF\)/, "%PDF"],
      [/^Swatches \(CSV\)/, "code,tie"],
      [/^All of it \(JSON\)/, "{"],
    ] as const) {
      const link = await screen.findByRole<HTMLAnchorElement>("link", { name });
      const paper = await (await fetch(new URL(link.getAttribute("href") ?? "", window.location.origin))).text();
      expect(paper.replace(/^\uFEFF/, "").startsWith(start)).toBe(true);
    }
  });
});
