import { styled } from "@mui/material/styles";
import type { ComponentProps } from "react";

const Plain = styled("button")({});

/**
 * One of a few answers: framed; filled where it stands (data-on). It looks as MUI's Button of the variant "choice"
 * does, which stays for links; a card has thirty of them, and a plain button is drawn several times as fast.
 */
export function ChoiceButton({ type = "button", ...rest }: ComponentProps<typeof Plain>) {
  return <Plain className="choice" type={type} {...rest} />;
}
