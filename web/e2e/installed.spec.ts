import { expect, test } from "./own";
import { demo } from "./simulator";
import { answers, jobStep } from "./yard";

test.use({ serviceWorkers: "allow" });

test("the shell opens from the device with no program and no network, and takes the newest where there is a link", async ({
  page,
  context,
}, info) => {
  test.skip(info.project.name === "desk", "it is the phone that loses its link");
  const own = await demo(8439);
  await page.goto(own.address);
  await expect(page.getByRole("button", { name: "Add a craft" })).toBeEnabled();
  await page.evaluate(async () => void (await navigator.serviceWorker.ready));
  const manifest = await page.evaluate(async () => {
    const link = document.querySelector<HTMLLinkElement>("link[rel=manifest]");
    const answer = await fetch(link?.href ?? "");
    return { type: answer.headers.get("Content-Type"), is: (await answer.json()) as { icons: { src: string }[] } };
  });
  expect(manifest.type).toContain("application/manifest+json");
  for (const icon of manifest.is.icons)
    expect(await page.evaluate(async (src) => (await fetch(src)).headers.get("Content-Type"), icon.src)).toBe(
      "image/png",
    );
  await own.stop();
  await context.setOffline(true);
  await page.reload();
  await expect(page.getByRole("link", { name: "Hevrin" })).toBeVisible();
  const cold = await context.newPage(); // from the home screen
  await cold.goto(own.address);
  await expect(cold.getByRole("link", { name: "Hevrin" })).toBeVisible();
  // a part of the program that was never opened here is there too
  await cold.getByRole("button", { name: "Search" }).click();
  await expect(cold.getByRole("dialog", { name: "Search" })).toBeVisible();
});

test("what was opened with a link is read and worked on without one, and is sent once there is one", async ({
  page,
  context,
}, info) => {
  test.skip(info.project.name === "desk", "it is the phone that loses its link");
  let own = await demo(8440);
  await page.addInitScript(() => localStorage.setItem("hevrin.writer", "Kit Venn"));
  await page.goto(own.address);
  await page
    .getByRole("region", { name: "Brackling" })
    .getByRole("link", { name: /May 2026/ })
    .click();
  await jobStep(page, "Find");
  await expect(page.getByRole("article").first()).toBeVisible();
  const job = page.url();
  await page.evaluate(async () => void (await navigator.serviceWorker.ready));
  await own.stop();
  await context.setOffline(true);

  // from the home screen, with nothing but the device
  await page.close();
  const cold = await context.newPage();
  await cold.addInitScript(() => localStorage.setItem("hevrin.writer", "Kit Venn"));
  await cold.goto(own.address);
  await expect(cold.getByRole("status", { name: "No link" })).toContainText("As it stood"); // its own program was not fetched yet
  await cold
    .getByRole("region", { name: "Brackling" })
    .getByRole("link", { name: /May 2026/ })
    .click();
  await jobStep(cold, "Find");
  const check = cold.getByRole("article").first();
  await expect(check).toBeVisible();
  await answers(cold).getByRole("button", { name: "Cannot get at it" }).click();
  await expect(cold.getByRole("status", { name: "No link" }).filter({ hasText: "1 thing waits" })).toBeVisible();
  await cold.reload(); // a dead battery between

  await expect(cold.getByRole("status", { name: "No link" }).filter({ hasText: "1 thing waits" })).toBeVisible();
  own = await demo(8440, false);
  await context.setOffline(false);
  await expect(cold.getByRole("status", { name: "No link" })).toHaveCount(0);
  const saved = async () => {
    const answer = await cold.request.get(`${own.address}/api/v1/jobs/${job.split("/").at(-1)?.split("?")[0]}`);
    const { log } = (await answer.json()) as { log: { outcome?: string }[] };
    return log.filter((l) => l.outcome === "skipped").length;
  };
  await expect.poll(saved).toBe(1);
  await own.stop();
});
