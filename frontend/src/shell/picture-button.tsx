import Button from "@mui/material/Button";

interface PictureButtonProps {
  words: string;
  /** What the picture is of, for those who cannot see the button. */
  label: string;
  onPicture: (file: File) => void;
}

/** Takes a picture with the phone's camera, or chooses one from the disk. */
export function PictureButton({ words, label, onPicture }: PictureButtonProps) {
  return (
    <Button variant="outlined" color="secondary" component="label" sx={{ minHeight: 48, flex: "none" }}>
      {words}
      <input
        type="file"
        accept="image/*"
        capture="environment"
        hidden
        aria-label={label}
        onChange={(event) => {
          const file = event.target.files?.[0];
          if (file) onPicture(file);
          // The same picture may be taken again.
          event.target.value = "";
        }}
      />
    </Button>
  );
}
