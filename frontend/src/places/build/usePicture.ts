import { useState } from "react";
import type { Spot } from "./trace";

const KEY = "fletcher.trace.picture";
/** No picture is kept larger: it is traced by eye. */
const MOST_PX = 1600;

function kept(): string | null {
  try {
    return window.sessionStorage.getItem(KEY);
  } catch {
    return null;
  }
}

/** A picture that stays in this window: it is made smaller and never sent. */
export function usePicture() {
  const [url, setUrl] = useState<string | null>(kept);
  const [trouble, setTrouble] = useState("");
  const open = async (file: File): Promise<Spot | null> => {
    setTrouble("");
    try {
      const image = await createImageBitmap(file);
      const scale = Math.min(1, MOST_PX / Math.max(image.width, image.height));
      const size: Spot = [Math.round(image.width * scale), Math.round(image.height * scale)];
      const canvas = document.createElement("canvas");
      [canvas.width, canvas.height] = size;
      canvas.getContext("2d")!.drawImage(image, 0, 0, ...size);
      const made = canvas.toDataURL("image/jpeg", 0.85);
      setUrl(made);
      try {
        window.sessionStorage.setItem(KEY, made);
      } catch {
        // too large to keep: after a reload it is opened again
      }
      return size;
    } catch {
      setTrouble("This file is no picture that the browser can read: take a JPEG, PNG or WebP.");
      return null;
    }
  };
  return { url, trouble, open };
}
