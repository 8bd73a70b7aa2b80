import { Button } from "@mui/material";
import { useRef, useState } from "react";
import { useNotice } from "./notices";

/** How large a picture is sent, either way, and how well it is kept. */
const side = 1280;
const quality = 0.75;

/** Takes a picture with the device's camera, makes it small on the device, and hands it on. */
export function Camera({ label, onTaken }: { label: string; onTaken: (photo: Blob) => void }) {
  const { failed } = useNotice();
  const [busy, setBusy] = useState(false);
  const input = useRef<HTMLInputElement>(null);
  const take = async (file: File | undefined) => {
    if (!file) return;
    setBusy(true);
    try {
      onTaken(await small(file));
    } catch {
      failed(new Error("This is no picture that can be read: take it again."));
    }
    setBusy(false);
  };
  return (
    <>
      <Button
        disabled={busy}
        onClick={() => input.current?.click()}
        sx={{ color: "text.primary", border: 2, borderColor: "text.secondary" }}
      >
        {busy ? "A moment" : label}
      </Button>
      <input
        ref={input}
        type="file"
        accept="image/*"
        capture="environment"
        aria-label={label}
        hidden
        onChange={(e) => {
          void take(e.target.files?.[0]);
          e.target.value = "";
        }}
      />
    </>
  );
}

/** The picture drawn anew, no larger than it need be: what hangs on the file stays on the device. */
async function small(file: File): Promise<Blob> {
  const picture = await createImageBitmap(file);
  const scale = Math.min(1, side / Math.max(picture.width, picture.height));
  const canvas = document.createElement("canvas");
  canvas.width = Math.round(picture.width * scale);
  canvas.height = Math.round(picture.height * scale);
  canvas.getContext("2d")?.drawImage(picture, 0, 0, canvas.width, canvas.height);
  return new Promise((done, fail) =>
    canvas.toBlob((b) => (b ? done(b) : fail(new Error("no picture"))), "image/jpeg", quality),
  );
}
