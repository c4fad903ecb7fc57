"use client";
import { useEffect, useRef } from "react";

/** Share of each day that is there, as a strip over the year: what is there in water, what was taken out in clay, the rest blank. */
export function Coverage({
  values,
  masked,
  label,
  height = 14,
}: {
  values: ArrayLike<number>;
  /** 1: in an hour there is a reading, and it means nothing. */
  masked?: ArrayLike<number> | undefined;
  label: string;
  height?: number;
}) {
  const canvas = useRef<HTMLCanvasElement>(null);
  const days = Math.floor(values.length / 24);
  useEffect(() => {
    const c = canvas.current?.getContext("2d");
    if (!c || days === 0) return;
    const image = c.createImageData(days, 1);
    for (let d = 0; d < days; d++) {
      let [there, without] = [0, 0];
      for (let h = 24 * d; h < 24 * d + 24; h++) {
        if (values[h] !== values[h]) continue;
        if (masked && masked[h] !== 0) without++;
        else there++;
      }
      const clay = without > there;
      const rgb = clay ? [178, 78, 43] : [14, 107, 128];
      for (let k = 0; k < 3; k++) image.data[4 * d + k] = rgb[k];
      image.data[4 * d + 3] = Math.round((255 * (there + without)) / 24);
    }
    c.putImageData(image, 0, 0);
  }, [values, masked, days]);
  return (
    <canvas
      ref={canvas}
      width={Math.max(1, days)}
      height={1}
      role="img"
      aria-label={label}
      style={{ width: "100%", height, imageRendering: "pixelated", border: "1px solid var(--chakra-colors-line)", display: "block" }}
    />
  );
}
