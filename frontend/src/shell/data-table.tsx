import Box from "@mui/material/Box";
import type { BoxProps } from "@mui/material/Box";
import Button from "@mui/material/Button";
import { useRef } from "react";

import { csvOf } from "./csv";

interface DataTableProps extends BoxProps {
  /** What the file is called. */
  name: string;
}

/** A table that can be taken away as it stands on the screen. */
export function DataTable({ name, children, ...look }: DataTableProps) {
  const table = useRef<HTMLTableElement>(null);
  const take = () => {
    if (!table.current) return;
    const link = document.createElement("a");
    link.href = URL.createObjectURL(new Blob(["\ufeff", csvOf(table.current)], { type: "text/csv" }));
    link.download = `${name}.csv`;
    link.click();
    URL.revokeObjectURL(link.href);
  };
  return (
    <>
      <Box component="table" ref={table} {...look}>
        {children}
      </Box>
      <Button
        size="small"
        onClick={take}
        aria-label={`Take as CSV: ${name}`}
        sx={{ px: 0, display: "block", "@media print": { display: "none" } }}>
        Take as CSV
      </Button>
    </>
  );
}

/** The names of the columns of a table. */
export const ColumnNames = ({ names }: { names: readonly string[] }) => (
  <thead>
    <tr>
      {names.map((name) => (
        <th key={name} scope="col">
          {name}
        </th>
      ))}
    </tr>
  </thead>
);
