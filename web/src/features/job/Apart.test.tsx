import { render, screen } from "@testing-library/react";
import userEvent from "@testing-library/user-event";
import { expect, it, vi } from "vitest";
import { jobOf } from "../../testing/show";
import type { Words } from "../../ui/words";
import { Apart } from "./Apart";

it("shows who answered what and when, and states the one that is touched", async () => {
  const said = (id: string, q: number, by: string) => ({ id, q, by, at: "2026-05-04T09:10:00Z", entry_id: by });
  const page = jobOf({ apart: [{ stands: said("drip", 1, "Tamsin Vane"), other: said("drip", 0, "Kit Venn") }] });
  const words = { finding: () => "Drips at the weep hole" } as unknown as Words;
  const keep = vi.fn();
  const { container } = render(<Apart page={page} words={words} onKeep={keep} />);
  expect(container).toHaveTextContent("Two answers: which is so?");
  expect(screen.getByRole("button", { pressed: true })).toHaveTextContent("Drips at the weep hole (Tamsin Vane");
  await userEvent.click(screen.getByRole("button", { name: /^Not: Drips at the weep hole \(Kit Venn/ }));
  expect(keep).toHaveBeenCalledWith(
    { kind: "finding", stated: [{ id: "drip", state: "absent" }] },
    "Not: Drips at the weep hole",
  );
});
