import type { CDPSession, Page } from "@playwright/test";
import { expect, test } from "./own";
import { demo } from "./simulator";

interface Weighed {
  code: number; // HTML, JavaScript, styles
  fonts: number;
  all: number;
}

/** Counts what comes over the wire, headers too, as the browser counts it. */
async function weigh(page: Page, session: CDPSession, visit: () => Promise<void>): Promise<Weighed> {
  const kinds = new Map<string, string>();
  const out: Weighed = { code: 0, fonts: 0, all: 0 };
  session.on("Network.responseReceived", (e) => void kinds.set(e.requestId, e.type));
  session.on("Network.loadingFinished", (e) => {
    const kind = kinds.get(e.requestId) ?? "";
    out.all += e.encodedDataLength;
    if (kind === "Font") out.fonts += e.encodedDataLength;
    else if (["Document", "Script", "Stylesheet"].includes(kind)) out.code += e.encodedDataLength;
  });
  await visit();
  await page.waitForLoadState("networkidle").catch(() => undefined); // the stream of changes never ends
  return out;
}

test("the yard's page is light at the first visit, lighter at the second, and an open page asks for next to nothing", async ({
  page,
}, info) => {
  test.skip(info.project.name === "phone", "the same bytes");
  const own = await demo(8431); // nobody else taps there
  const session = await page.context().newCDPSession(page);
  await session.send("Network.enable");
  const usable = async () => {
    await page.goto(own.address);
    await expect(page.getByRole("button", { name: "Add a craft" })).toBeEnabled();
  };
  const first = await weigh(page, session, usable);
  console.log(`first visit: ${first.code} B of HTML, JS, CSS; ${first.fonts} B of fonts; ${first.all} B in all`);
  expect(first.code).toBeLessThanOrEqual(200_000);
  expect(first.fonts).toBeLessThanOrEqual(60_000);
  await session.detach();
  const again = await page.context().newCDPSession(page);
  await again.send("Network.enable");
  const second = await weigh(page, again, usable);
  console.log(`second visit: ${second.all} B`);
  expect(second.all).toBeLessThan(30_000);
  let idle = 0;
  const streams = new Set<string>(); // their bytes are told as they come; those of other answers at their end
  again.on("Network.responseReceived", (e) => void (e.type === "EventSource" && streams.add(e.requestId)));
  again.on("Network.dataReceived", (e) => void (streams.has(e.requestId) && (idle += e.dataLength)));
  again.on("Network.loadingFinished", (e) => void (idle += e.encodedDataLength));
  await page.getByRole("region", { name: "Lissamar" }).getByRole("link").first().click();
  await expect(page.getByRole("heading", { level: 1 })).toBeVisible();
  await page.waitForTimeout(7_000); // what opening a page asks for has come, and what is taken along
  idle = 0;
  await page.waitForTimeout(12_000); // nothing happens: there is nothing to wait for
  console.log(`an open page: ${5 * idle} B a minute`);
  expect(5 * idle).toBeLessThan(1_000);
  await own.stop();
});
