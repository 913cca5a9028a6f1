import Box from "@mui/material/Box";
import Button from "@mui/material/Button";
import { Component } from "react";
import type { ReactNode } from "react";

interface PanelBoundaryProps {
  /** What is shown: another one is tried anew. */
  of: string;
  children: ReactNode;
}

/** What breaks in one panel leaves the rest of the screen standing. */
export class PanelBoundary extends Component<PanelBoundaryProps, { broken: string | null }> {
  override state = { broken: null };

  static getDerivedStateFromError(error: unknown) {
    return { broken: error instanceof Error ? error.message : String(error) };
  }

  override componentDidUpdate(before: PanelBoundaryProps) {
    if (before.of !== this.props.of && this.state.broken !== null) this.setState({ broken: null });
  }

  override render() {
    if (this.state.broken === null) return this.props.children;
    return (
      <Box role="alert" sx={{ m: 2, border: 1, borderColor: "error.main", borderLeftWidth: 6, p: 1.25 }}>
        <strong>This part cannot be shown.</strong>
        <div>
          Nothing that was saved is lost, and the rest goes on. It is a fault of the application: {this.state.broken}
        </div>
        <Button variant="outlined" size="small" onClick={() => this.setState({ broken: null })} sx={{ mt: 1 }}>
          Try again
        </Button>
      </Box>
    );
  }
}
