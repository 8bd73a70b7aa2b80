import { expect, test } from "@playwright/test";
import { demo } from "./simulator";

test.use({ serviceWorkers: "allow" });

test("the shell opens from the device with no program and no network, and takes the newest where there is a link", async ({
  page,
  context,
}, info) => {
  test.skip(info.project.name === "desk", "it is the phone that loses its link");
  test.setTimeout(120_000);
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
  own.stop();
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
