import Button from "@mui/material/Button";
import Dialog from "@mui/material/Dialog";
import DialogActions from "@mui/material/DialogActions";
import DialogContent from "@mui/material/DialogContent";
import DialogTitle from "@mui/material/DialogTitle";

const KEYS: [string, string][] = [
  ["1 to 6", "change the lens"],
  ["Arrow keys", "move over the grid"],
  ["Shift and arrows", "select a block"],
  ["Shift and click, or drag", "select a block"],
  ["Ctrl and click", "add a swatch to the selection, or take it out"],
  ["Click on a header", "select a whole row, column or group"],
  ["Esc", "select nothing"],
  ["Ctrl and Z", "undo a change of the plan; with Shift, or Ctrl and Y, redo"],
  ["?", "this list"],
];

export function KeysDialog({ open, onClose }: { open: boolean; onClose: () => void }) {
  return (
    <Dialog open={open} onClose={onClose}>
      <DialogTitle>Keys</DialogTitle>
      <DialogContent>
        <dl>
          {KEYS.map(([key, does]) => (
            <div key={key}>
              <dt>
                <strong>{key}</strong>
              </dt>
              <dd>{does}</dd>
            </div>
          ))}
        </dl>
      </DialogContent>
      <DialogActions>
        <Button onClick={onClose}>Close</Button>
      </DialogActions>
    </Dialog>
  );
}
