import { useEffect, useState } from "react";

/** The address of a picture that is on this device, as long as it is shown. */
export function usePictureUrl(picture: Blob | undefined): string | null {
  const [shown, setShown] = useState<{ picture: Blob; url: string } | null>(null);
  useEffect(() => {
    if (!picture) return;
    const url = URL.createObjectURL(picture);
    queueMicrotask(() => setShown({ picture, url }));
    return () => URL.revokeObjectURL(url);
  }, [picture]);
  return shown !== null && shown.picture === picture ? shown.url : null;
}
