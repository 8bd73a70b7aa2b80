import { writeFileSync } from "node:fs";
import type { Page } from "@playwright/test";

/** A film of one picture, as a camera would see a code that lies askew on a grey table (YUV4MPEG2, 4:2:0). */
export async function film(page: Page, file: string, path: string, squares: number): Promise<string> {
  const [width, height] = [640, 480];
  const grey = await page.evaluate(
    ([code, size, w, h]) => {
      const canvas = document.createElement("canvas");
      [canvas.width, canvas.height] = [w, h];
      const pen = canvas.getContext("2d");
      if (!pen) throw new Error("no canvas");
      pen.fillStyle = "#999";
      pen.fillRect(0, 0, w, h);
      pen.translate(w / 2, h / 2);
      pen.rotate(0.2);
      pen.scale(260 / size, 260 / size);
      pen.translate(-size / 2, -size / 2);
      pen.fillStyle = "#fff";
      pen.fillRect(-4, -4, size + 8, size + 8);
      pen.fillStyle = "#000";
      pen.fill(new Path2D(code));
      const { data: pixels } = pen.getImageData(0, 0, w, h);
      return Array.from({ length: w * h }, (_, i) => pixels[4 * i] ?? 0);
    },
    [path, squares, width, height] as const,
  );
  const colour = Buffer.alloc((width * height) / 2, 128);
  const frame = Buffer.concat([Buffer.from("FRAME\n"), Buffer.from(grey), colour]);
  const head = Buffer.from(`YUV4MPEG2 W${width} H${height} F10:1 Ip C420jpeg\n`);
  writeFileSync(file, Buffer.concat([head, ...Array.from({ length: 10 }, () => frame)]));
  return file;
}
