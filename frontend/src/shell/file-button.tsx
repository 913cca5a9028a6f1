import Button from "@mui/material/Button";
import type { ButtonProps } from "@mui/material/Button";
import { useRef } from "react";
import type { ReactNode } from "react";

interface FileButtonProps extends Omit<ButtonProps, "onClick"> {
  children: ReactNode;
  /** What the file is, for those who cannot see the button. */
  label: string;
  accept?: string;
  /** The camera of a phone is offered first. */
  camera?: boolean;
  onFile: (file: File) => void;
}

/** Chooses a file from the device. */
export function FileButton({ children, label, accept, camera = false, onFile, ...button }: FileButtonProps) {
  const input = useRef<HTMLInputElement>(null);
  return (
    <>
      <Button variant="outlined" {...button} onClick={() => input.current?.click()}>
        {children}
      </Button>
      <input
        ref={input}
        type="file"
        hidden
        aria-label={label}
        accept={accept}
        {...(camera ? { capture: "environment" } : {})}
        onChange={(event) => {
          const file = event.target.files?.[0];
          if (file) onFile(file);
          // The same file may be chosen again.
          event.target.value = "";
        }}
      />
    </>
  );
}

interface PictureButtonProps {
  words: string;
  /** What the picture is of, for those who cannot see the button. */
  label: string;
  onPicture: (file: File) => void;
}

/** Takes a picture with the phone's camera, or chooses one from the disk. */
export function PictureButton({ words, label, onPicture }: PictureButtonProps) {
  return (
    <FileButton
      color="secondary"
      accept="image/*"
      camera
      label={label}
      onFile={onPicture}
      sx={{ minHeight: 48, flex: "none" }}>
      {words}
    </FileButton>
  );
}
