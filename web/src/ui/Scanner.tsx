import { Alert, Box, Button, Stack, Typography } from "@mui/material";
import jsQR from "jsqr";
import { useEffect, useRef, useState } from "react";
import { labelPath } from "./labelPath";

/** How often a picture of the camera is looked at, ms, and how wide, px: a label fills a good part of it. */
const every = 180;
const width = 640;

/** Why the camera gives no picture, in words. */
const cameraSays: Record<string, string> = {
  NotAllowedError:
    "The camera is not allowed here: allow it in the browser's settings, or type the code under the label.",
  NotFoundError: "No camera was found: type the code under the label.",
  NotReadableError: "Another program has the camera: close it, or type the code under the label.",
};

/** Looks through the camera for a label and gives where it leads. */
export function Scanner({ onFound, onClose }: { onFound: (path: string) => void; onClose: () => void }) {
  const video = useRef<HTMLVideoElement>(null);
  const [say, setSay] = useState("");
  const [refused, setRefused] = useState("");
  useEffect(() => {
    const canvas = document.createElement("canvas");
    const paper = canvas.getContext("2d", { willReadFrequently: true });
    let stream: MediaStream | undefined;
    let stopped = false;
    const look = () => {
      const v = video.current;
      if (!v || !paper || v.readyState < v.HAVE_CURRENT_DATA) return;
      canvas.width = width;
      canvas.height = Math.round((width * v.videoHeight) / v.videoWidth);
      paper.drawImage(v, 0, 0, canvas.width, canvas.height);
      const { data } = paper.getImageData(0, 0, canvas.width, canvas.height);
      const text = jsQR(data, canvas.width, canvas.height, { inversionAttempts: "dontInvert" })?.data;
      if (!text) return;
      const path = labelPath(text);
      if (path) onFound(path);
      else setSay("That is no label of an engine, a part or a gateway.");
    };
    const open = async () => {
      stream = await navigator.mediaDevices.getUserMedia({ video: { facingMode: "environment" } });
      if (stopped || !video.current) return stream.getTracks().forEach((t) => t.stop());
      video.current.srcObject = stream;
      await video.current.play();
    };
    open().catch((e: unknown) => {
      const name = e instanceof DOMException ? e.name : "";
      if (!stopped) setRefused(cameraSays[name] ?? "The camera gives no picture: type the code under the label.");
    });
    const looking = setInterval(look, every);
    return () => {
      stopped = true;
      clearInterval(looking);
      stream?.getTracks().forEach((t) => t.stop());
    };
  }, [onFound]);
  return (
    <Stack sx={{ gap: 1, mt: 1 }}>
      {refused ? (
        <Alert severity="error">{refused}</Alert>
      ) : (
        <Box
          component="video"
          ref={video}
          muted
          playsInline
          aria-label="What the camera sees"
          sx={{ width: "100%", maxHeight: "55vh", bgcolor: "#000", borderRadius: 1 }}
        />
      )}
      <Stack direction="row" sx={{ gap: 1, alignItems: "center" }}>
        <Typography role="status" sx={{ mr: "auto" }}>
          {say || (!refused && "Hold a label before the camera.")}
        </Typography>
        <Button onClick={onClose} sx={{ flex: "none" }}>
          Type instead
        </Button>
      </Stack>
    </Stack>
  );
}
