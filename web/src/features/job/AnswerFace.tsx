import { useTheme } from "@mui/material/styles";
import type { ReactNode } from "react";
import type { Schemas } from "../../api/client";
import { Drawn } from "../../ui/Drawn";

interface Props {
  of?: Schemas["Drawing"];
  /** The drawing stands over the words: where three answers lie side by side. */
  over?: boolean;
  width?: number;
  children: ReactNode;
}

// plain styles: a card has many of them, and all come with a tap
const beside = { display: "flex", alignItems: "center", gap: 8, width: "100%" } as const;
const above = { display: "flex", alignItems: "center", gap: 2, flexDirection: "column" } as const;

/** An answer as it looks, and in words. The drawing lies on paper, whatever the button is filled with. */
export function AnswerFace({ of, over = false, width = 64, children }: Props) {
  const { palette } = useTheme();
  if (!of?.plate) return <span>{children}</span>;
  return (
    <span style={over ? above : beside}>
      <span style={{ background: palette.background.paper, borderRadius: 2, padding: 2, flex: "none" }}>
        <Drawn of={of} width={width} small />
      </span>
      <span style={over ? { textAlign: "center" } : { textAlign: "left", minWidth: 0, flex: 1 }}>{children}</span>
    </span>
  );
}
