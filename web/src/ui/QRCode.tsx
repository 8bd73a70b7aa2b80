import { Box } from "@mui/material";
import type { Schemas } from "../api/client";

/** A code to be scanned: dark on white in every light, with the white edge that scanners need. */
export function QRCode({ code, label, size = 220 }: { code: Schemas["QR"]; label: string; size?: number }) {
  const edge = 4; // squares, ISO/IEC 18004
  const all = code.size + 2 * edge;
  return (
    <Box
      component="svg"
      role="img"
      aria-label={label}
      viewBox={`${-edge} ${-edge} ${all} ${all}`}
      shapeRendering="crispEdges"
      sx={{ width: size, maxWidth: "100%", height: "auto", display: "block" }}
    >
      <rect x={-edge} y={-edge} width={all} height={all} fill="#fff" />
      <path d={code.path} fill="#000" />
    </Box>
  );
}
