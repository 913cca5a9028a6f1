import Box from "@mui/material/Box";
import Button from "@mui/material/Button";
import { Suspense, lazy, useState } from "react";

const StudyList = lazy(() => import("./study-list").then((module) => ({ default: module.StudyList })));
const BringDialog = lazy(() => import("../bring/bring-dialog").then((module) => ({ default: module.BringDialog })));
const NewStudyDialog = lazy(() =>
  import("../plan/new-study-dialog").then((module) => ({ default: module.NewStudyDialog })),
);

interface StudyMenuProps {
  name: string | undefined;
  study: number | null;
  onChoose: (id: number) => void;
}

type Open = "list" | "new" | "bring" | null;

/** The study that is looked at, and the way to others. */
export function StudyMenu({ name, study, onChoose }: StudyMenuProps) {
  const [anchor, setAnchor] = useState<HTMLElement | null>(null);
  const [open, setOpen] = useState<Open>(null);
  const close = () => setOpen(null);
  const choose = (id: number) => {
    close();
    onChoose(id);
  };
  return (
    <>
      <Button
        variant="outlined"
        aria-haspopup="dialog"
        ref={setAnchor}
        onClick={() => setOpen("list")}
        sx={{
          flex: { xs: "1 1 90px", sm: "0 1 auto" },
          minWidth: 0,
          maxWidth: 360,
          overflow: "hidden",
          whiteSpace: "nowrap",
          justifyContent: "flex-start",
        }}>
        <Box component="span" sx={{ overflow: "hidden", textOverflow: "ellipsis" }}>
          {name ?? "Studies"}
        </Box>
        &nbsp;▾
      </Button>
      <Suspense fallback={null}>
        {open === "list" && anchor && (
          <StudyList
            anchor={anchor}
            study={study}
            onChoose={choose}
            onNew={() => setOpen("new")}
            onBring={() => setOpen("bring")}
            onClose={close}
          />
        )}
        {open === "bring" && <BringDialog onClose={close} onChoose={choose} />}
        {open === "new" && <NewStudyDialog open onClose={close} onMade={choose} />}
      </Suspense>
    </>
  );
}
