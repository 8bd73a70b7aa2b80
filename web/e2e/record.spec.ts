import { expect, test } from "./own";
import { engineOf, isPhone, nameFor, open } from "./yard";

test("the record's page: how it stands, a backup made now, the whole of it read", async ({ page }) => {
  await open(page);
  await page.getByRole("link", { name: "The record and its backups" }).click();
  const backups = page.getByRole("region", { name: "Backups" });
  await backups.getByRole("button", { name: "Back up now" }).click();
  await expect(page.getByText(/Backed up, and verified|backup is being made already/)).toBeVisible();
  await expect(backups).toContainText(/Last good one\s*\d+ \w+ 20\d\d/);
  // one is read whole, chosen for the next start, and thought better of
  const made = backups.getByRole("group", { name: "Backups that were made" });
  await made.getByRole("button", { name: "Verify" }).first().click();
  await expect(page.getByText(/^Sound: /)).toBeVisible();
  if (!isPhone(page)) {
    // one record is shared by both widths: one of them at a time
    await made.getByRole("button", { name: "Go back to it" }).first().click();
    await page.getByRole("dialog").getByRole("button", { name: "Go back at the next start" }).click();
    await expect(made.getByRole("alert")).toContainText("At the next start the record goes back to");
    await made.getByRole("button", { name: "Stay as it is" }).click();
    await expect(made.getByRole("alert")).toHaveCount(0);
  }
  const sound = page.getByRole("region", { name: "Is it sound?" });
  await sound.getByRole("button", { name: "Read the whole of it now" }).click();
  await expect(sound).toContainText("sound, the whole of it");
  await expect(page.getByRole("region", { name: "Where it lies" })).toContainText(/Room on its disk\s*\d+ (GB|MB)/);
});

test("phones are let in from a page on this machine, which says what is missing", async ({ page }) => {
  await open(page);
  await page.getByRole("link", { name: "Let phones in" }).click();
  await expect(page.getByRole("heading", { name: "Let phones in" })).toBeVisible();
  const hosts = page.getByLabel("Names and addresses of this machine");
  await page.getByLabel("Name of the manager").fill("Kit Venn");
  await page.getByRole("textbox", { name: "Passphrase" }).fill("password1234");
  await hosts.fill("https://hevrin.local");
  await page.getByRole("button", { name: "Set it up" }).click();
  await expect(page.getByRole("alert")).toContainText("Write it without https://");
  await hosts.fill("hevrin.local");
  await page.getByRole("button", { name: "Set it up" }).click();
  await expect(page.getByRole("alert")).toContainText("tried first by whoever guesses");
});

test("of two who change an engine the second sees both, and chooses", async ({ page }, info) => {
  test.skip(isPhone(page));
  const name = nameFor(info, "Crossed");
  const engine = await engineOf(page, name);
  await page.getByRole("region", { name }).getByRole("link", { name: /^Main/ }).click();
  const change = async (to: string) => {
    await page.getByRole("button", { name: "Change facts" }).click();
    const form = page.getByRole("dialog");
    await form.getByLabel("Rated power, kW").fill(to);
    return form.getByRole("button", { name: "Save", exact: true });
  };
  // somebody else saves while the form is open
  const others = async (kw: number) => {
    const at = `/api/v1/engines/${engine}`;
    const { engine: now } = (await (await page.request.get(at)).json()) as { engine: Record<string, unknown> };
    const { id, saved, ...facts } = now;
    const answer = await page.request.put(at, {
      data: { ...facts, entry_id: crypto.randomUUID(), by: "Wyn Abery", rated_kw: kw },
    });
    expect(answer.ok(), `${await answer.text()} ${String(id)} ${String(saved)}`).toBe(true);
  };
  const both = page.getByRole("dialog", { name: "Changed by somebody else meanwhile" });
  for (const [choice, stays] of [
    ["Leave what is on record", "75 kW"],
    ["Save mine", "90 kW"],
  ] as const) {
    const save = await change("90");
    await others(75);
    await save.click();
    await expect(both).toContainText("Wyn Abery");
    await expect(both.getByRole("row", { name: /Rated power, kW/ })).toContainText("7590");
    await both.getByRole("button", { name: choice }).click();
    await expect(page.getByRole("dialog")).toHaveCount(0);
    await expect(page.getByText(stays).first()).toBeVisible();
  }
});

test("a craft is changed; of two who change it at once the second is told", async ({ page }, info) => {
  test.skip(!isPhone(page));
  const name = nameFor(info, "Crossed craft");
  await engineOf(page, name);
  const row = page.getByRole("region", { name, exact: true });
  const change = async (berth: string) => {
    await page.getByRole("button", { name: `Change ${name}`, exact: true }).click();
    await page.getByRole("dialog").getByLabel("Berth").fill(berth);
    return page.getByRole("dialog").getByRole("button", { name: "Save", exact: true });
  };
  await (await change("Pontoon 4")).click();
  await expect(row).toContainText("Pontoon 4");
  const save = await change("Pontoon 5");
  const { craft } = (await (await page.request.get("/api/v1/yard")).json()) as {
    craft: { craft: { id: string; name: string } }[];
  };
  const id = craft.find((c) => c.craft.name === name)?.craft.id ?? "";
  await page.request.put(`/api/v1/craft/${id}`, {
    data: { name, berth: "The slip", entry_id: crypto.randomUUID(), by: "Wyn Abery" },
  });
  await save.click();
  const both = page.getByRole("dialog", { name: "Changed by somebody else meanwhile" });
  await expect(both.getByRole("row", { name: /Berth/ })).toContainText("The slipPontoon 5");
  await both.getByRole("button", { name: "Save mine" }).click();
  await expect(row).toContainText("Pontoon 5");
});
