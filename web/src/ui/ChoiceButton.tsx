import { styled } from "@mui/material/styles";
import type { ComponentProps } from "react";

const Styled = styled("button")({});

/**
 * One of a few answers: framed; filled where it stands (data-on). It looks as MUI's Button of the variant "choice"
 * does, which stays for links; a card has thirty of them, and a plain button is drawn several times as fast, by a class
 * as fast again as by sx.
 */
export function ChoiceButton({ type = "button", className, sx, ...rest }: ComponentProps<typeof Styled>) {
  const all = { className: className ? `choice ${className}` : "choice", type, ...rest };
  return sx ? <Styled {...all} sx={sx} /> : <button {...all} />;
}
