import { expect, type Locator, type Page } from "@playwright/test";

/** A thumb that counts; or, where no mouse is at hand, the keys alone. */
export class Hand {
  taps = 0;
  typed = 0;
  constructor(
    readonly page: Page,
    readonly keys = false,
  ) {}
  async tap(at: Locator) {
    await (this.keys ? this.press(at) : at.click());
    this.taps++;
  }
  /** Goes there as Tab would, and presses Enter. */
  private async press(at: Locator) {
    await expect(at).toBeEnabled();
    await expect(async () => {
      const reached = await at.evaluate((x: HTMLElement) => {
        x.focus();
        const hidden = x.closest("[aria-hidden=true], [inert]");
        // within a group Tab goes to one of its buttons, and the arrows to the others
        const group = x.closest("[role=group], [role=radiogroup]")?.querySelector('button[tabindex="0"]');
        return { tab: group ? 0 : x.tabIndex, focused: document.activeElement === x, hidden: hidden?.className };
      });
      expect(reached, `${await at.textContent()}: the keys reach it`).toEqual({
        tab: 0,
        focused: true,
        hidden: undefined,
      });
    }).toPass({ timeout: 5000 }); // it may be drawn anew at that moment
    await at.press("Enter");
  }
  /** Goes on by Tab, one thing after the other, until it is there. */
  async tabTo(at: Locator) {
    for (let i = 0; i < 80; i++) {
      await this.page.keyboard.press("Tab");
      if (await at.evaluate((x) => document.activeElement === x)) return;
    }
    throw new Error(`80 times Tab, and still not at ${await at.textContent()}`);
  }
  button(name: string | RegExp, within: Page | Locator = this.page) {
    return this.tap(within.getByRole("button", { name, ...(typeof name === "string" && { exact: true }) }).first());
  }
  link(name: string | RegExp, within: Page | Locator = this.page) {
    return this.tap(within.getByRole("link", { name, ...(typeof name === "string" && { exact: true }) }).first());
  }
  async type(label: string, text: string, within: Page | Locator = this.page) {
    await within.getByLabel(label, { exact: true }).first().fill(text);
    this.typed += text.length;
  }
}

/** A picture that a camera could have taken. */
export const picture = Buffer.from(
  "iVBORw0KGgoAAAANSUhEUgAAAAEAAAABCAYAAAAfFcSJAAAADUlEQVR42mP8z8BQDwAEhQGAhKmMIQAAAABJRU5ErkJggg==",
  "base64",
);

export const steps = (page: Page) => page.getByRole("navigation", { name: "Job steps" });
export const startList = (page: Page) => page.getByRole("region", { name: "Before the start" });

const touches = "Confirm|Seacock open|It holds|Closed up again|Coolant filled and bled|Battery on|It is back on";
/** The touches that settle a line of the start list. */
const settles = new RegExp(`^(${touches}|A new one is in): `);

/** Settles the start list as it stands, each line a touch, and starts. */
export async function start(hand: Hand) {
  const list = startList(hand.page);
  const started = hand.page.getByRole("button", { name: "Engine started" });
  const settle = list.getByRole("button", {
    name: settles,
  });
  await expect(started).toBeVisible();
  await expect(async () => {
    while ((await settle.count()) > 0) {
      const named = await settle.first().getAttribute("aria-label");
      const one = list.getByRole("button", { name: named ?? "", exact: true });
      await hand.tap(one);
      await expect(one).toHaveCount(0, { timeout: 5000 });
    }
    await expect(started).toBeEnabled({ timeout: 1000 });
  }).toPass({ timeout: 45_000 });
  await hand.tap(started);
}

export async function prime(hand: Hand) {
  await hand.button("The priming clock");
  const clock = hand.page.getByRole("dialog", { name: "Priming clock" });
  await hand.button("Engine running", clock);
  await hand.button("Water is there", clock);
}

export async function leaks(hand: Hand, name: string, hot: boolean) {
  const at = hand.page.getByRole("region", { name, exact: true });
  await hand.button("All of them are dry", at);
  await hand.button("Nothing", at.getByRole("group", { name: "Smell and sound" }));
  if (hot) await hand.button("Dry", at.getByRole("group", { name: "The bilge" }));
}

/** A hot engine that nobody knows, from its first answer to the owner's report; gives the craft's name. */
export async function hotEngineToReport(hand: Hand, name: string) {
  const { page } = hand;
  // the complaint is told further; the first tap asks for the name, once
  await hand.link("Complaint", steps(page));
  await hand.button("Came gradually");
  await hand.type("Name", "Kit Venn", page.getByRole("dialog"));
  await hand.button("That is me");
  await expect(page.getByRole("button", { name: "Came gradually" })).toHaveAttribute("aria-pressed", "true");
  // it gets its name in the job
  await hand.button("Name this craft");
  await hand.type("Name of the craft", name);
  await hand.button("Save");
  await expect(page.getByRole("link", { name: `${name}, Diesel` })).toBeVisible();

  // find: the basket is full
  await hand.link("Find", steps(page));
  await hand.button(/Look into the strainer/);
  await expect(page.getByRole("article", { name: "Look into the strainer" })).toBeVisible();
  const answers = page.getByRole("group", { name: "What did you find?" });
  await page.getByLabel("Take a picture").setInputFiles({ name: "basket.png", mimeType: "image/png", buffer: picture });
  const marking = page.getByRole("dialog", { name: "Mark the picture" });
  await hand.type("A word with it", "weed", marking);
  await hand.button("Save the picture", marking);
  await expect(page.getByRole("img", { name: "Look into the strainer: weed" })).toBeVisible();
  // how a full basket looks stands beside the answer, and the check has its own drawing
  await expect(answers.getByRole("button", { name: "Basket: Basket choked" }).locator("svg")).toBeVisible();
  await hand.button("Basket: Basket choked", answers);
  await hand.button("Save: Basket choked", answers);
  await expect(page.getByRole("status", { name: /Found/ }).first()).toBeVisible();
  const before = hand.taps;

  // repair: one touch away
  await hand.link("Repair", steps(page));
  expect(hand.taps - before).toBe(1);
  await hand.button("Start", page.getByRole("navigation", { name: "Steps of the work" }));
  await hand.button(/^(Done: put right|Put right)/);
  await start(hand);

  // prove by hand
  await prime(hand);
  await leaks(hand, "First leak round", false);
  await hand.type("After, min", "14");
  await hand.type("Needle, °C", "84");
  await hand.type("Thermometer, °C", "82");
  await hand.button("Save", page.getByRole("form", { name: /needle stands/ }));
  await hand.type("At cruising speed, min", "12");
  await hand.type("Highest speed, rev/min", "3000");
  await hand.button("Save", page.getByRole("form", { name: "What was run" }));
  await leaks(hand, "Last leak round", true);
  await hand.button("None");
  await hand.button(/^Sign it as cured/);
  await hand.link("The owner's report");
  const report = page.getByRole("article", { name: "The owner's report" });
  await expect(report).toContainText(/by hand/i);
  await expect(report).toContainText(/cured/i);
}
