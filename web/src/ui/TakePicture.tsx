import { Box, Button, Dialog, DialogActions, DialogContent, Stack, TextField } from "@mui/material";
import { useEffect, useRef, useState, type PointerEvent } from "react";
import type { JobPage } from "../api/client";
import { Camera } from "./Camera";

interface Props {
  label: string;
  onTaken: (photo: Blob, words: string) => void;
}

/** A picture from the camera, with a mark drawn on it and a word, before it is saved. */
export function TakePicture({ label, onTaken }: Props) {
  const [photo, setPhoto] = useState<Blob>();
  return (
    <>
      <Camera label={label} onTaken={setPhoto} />
      {photo && (
        <Marking
          photo={photo}
          onClose={() => setPhoto(undefined)}
          onDone={(marked, words) => {
            setPhoto(undefined);
            onTaken(marked, words);
          }}
        />
      )}
    </>
  );
}

interface MarkingProps {
  photo: Blob;
  onClose: () => void;
  onDone: (photo: Blob, words: string) => void;
}

/** How wide a stroke is, as a share of the picture's width. */
const stroke = 0.012;

function Marking({ photo, onClose, onDone }: MarkingProps) {
  const canvas = useRef<HTMLCanvasElement>(null);
  const [words, setWords] = useState("");
  const [wiped, setWiped] = useState(0);
  useEffect(() => {
    let gone = false;
    void createImageBitmap(photo).then((picture) => {
      const c = canvas.current;
      if (gone || !c) return;
      c.width = picture.width;
      c.height = picture.height;
      c.getContext("2d")?.drawImage(picture, 0, 0);
    });
    return () => {
      gone = true;
    };
  }, [photo, wiped]);
  const draw = useDrawing(canvas);
  const keep = () => canvas.current?.toBlob((b) => b && onDone(b, words.trim()), "image/jpeg", 0.8);
  return (
    <Dialog open fullWidth maxWidth="md" onClose={onClose} slotProps={{ paper: { "aria-label": "Mark the picture" } }}>
      <DialogContent>
        <Box
          component="canvas"
          ref={canvas}
          aria-label="The picture: draw a mark on it with a finger"
          role="img"
          {...draw}
          sx={{ width: "100%", maxHeight: "60vh", objectFit: "contain", touchAction: "none", cursor: "crosshair" }}
        />
        <Stack direction="row" sx={{ gap: 1, mt: 1, alignItems: "center" }}>
          <TextField
            label="A word with it"
            value={words}
            onChange={(e) => setWords(e.target.value)}
            sx={{ flex: 1 }}
            slotProps={{ htmlInput: { maxLength: 400 } }}
          />
          <Button onClick={() => setWiped(wiped + 1)}>Wipe the marks</Button>
        </Stack>
      </DialogContent>
      <DialogActions sx={{ p: 2 }}>
        <Button onClick={onClose}>Cancel</Button>
        <Button variant="contained" onClick={keep}>
          Save the picture
        </Button>
      </DialogActions>
    </Dialog>
  );
}

/** Strokes under a finger: light with a dark edge, so that they show on anything. */
function useDrawing(canvas: React.RefObject<HTMLCanvasElement | null>) {
  const last = useRef<[number, number]>(undefined);
  const at = (e: PointerEvent): [number, number] => {
    const c = canvas.current;
    const box = c?.getBoundingClientRect();
    if (!c || !box) return [0, 0];
    // the picture stands whole inside its box
    const scale = Math.max(c.width / box.width, c.height / box.height);
    const [left, top] = [(box.width - c.width / scale) / 2, (box.height - c.height / scale) / 2];
    return [(e.clientX - box.left - left) * scale, (e.clientY - box.top - top) * scale];
  };
  const line = (from: [number, number], to: [number, number]) => {
    const c = canvas.current;
    const pen = c?.getContext("2d");
    if (!c || !pen) return;
    const strokes: [string, number][] = [
      ["#08191f", 2],
      ["#ffd84d", 1],
    ];
    for (const [colour, wide] of strokes) {
      pen.beginPath();
      pen.lineCap = "round";
      pen.strokeStyle = colour;
      pen.lineWidth = wide * stroke * c.width;
      pen.moveTo(...from);
      pen.lineTo(...to);
      pen.stroke();
    }
  };
  return {
    onPointerDown: (e: PointerEvent) => {
      last.current = at(e);
      line(last.current, last.current);
    },
    onPointerMove: (e: PointerEvent) => {
      if (!last.current) return;
      const to = at(e);
      line(last.current, to);
      last.current = to;
    },
    onPointerUp: () => {
      last.current = undefined;
    },
    onPointerLeave: () => {
      last.current = undefined;
    },
  };
}

/** The pictures of a job that are about one thing. */
export function Pictures({ page, about }: { page: Pick<JobPage, "photos">; about: string }) {
  const list = page.photos.filter((p) => p.item === about);
  if (list.length === 0) return null;
  return (
    <Stack direction="row" sx={{ gap: 1, flexWrap: "wrap" }}>
      {list.map((p) => (
        <Box
          key={p.id}
          component="img"
          src={`/api/v1/photos/${p.id}`}
          alt={p.words || `A picture, ${p.by}`}
          sx={{ maxWidth: 160, maxHeight: 140, borderRadius: 1, border: 1, borderColor: "divider" }}
        />
      ))}
    </Stack>
  );
}
