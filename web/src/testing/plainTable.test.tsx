import { expect, test } from "vitest";
import { screen } from "@testing-library/react";
import userEvent from "@testing-library/user-event";
import { PlainTable } from "../ui/PlainTable";
import { show } from "./show";

const names = () =>
  screen
    .getAllByRole("row")
    .slice(1)
    .map((r) => r.firstChild?.textContent);

const rows = (list: [string, string][]) =>
  list.map(([name, value]) => (
    <tr key={name}>
      <td>
        <strong>{name}</strong>
      </td>
      <td>{value}</td>
    </tr>
  ));

test("a table is sorted by the heading that is touched, up, down, and back as it was", async () => {
  show(
    <PlainTable head={["What", "How much"]}>
      {rows([
        ["Raw flow", "9 %"],
        ["Cooler", "100 %"],
        ["Gauge", "20 %"],
      ])}
    </PlainTable>,
  );
  const touch = (name: string) => userEvent.click(screen.getByRole("button", { name: new RegExp(name) }));
  await touch("How much");
  expect(names()).toEqual(["Raw flow", "Gauge", "Cooler"]); // figures by their value
  expect(screen.getByRole("columnheader", { name: /How much/ })).toHaveAttribute("aria-sort", "ascending");
  await touch("How much");
  expect(names()).toEqual(["Cooler", "Gauge", "Raw flow"]);
  await touch("How much");
  expect(names()).toEqual(["Raw flow", "Cooler", "Gauge"]);
  await touch("What");
  expect(names()).toEqual(["Cooler", "Gauge", "Raw flow"]);
});

test("two rows are seen at a glance", () => {
  show(
    <PlainTable head={["What"]}>
      {rows([
        ["Raw flow", "9 %"],
        ["Cooler", "100 %"],
      ])}
    </PlainTable>,
  );
  expect(screen.queryByRole("button")).toBeNull();
});
