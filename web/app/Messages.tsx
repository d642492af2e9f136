import { Toaster } from "sonner";

/** Where short messages stand for a while. */
export const Messages = () => (
  <Toaster
    position="bottom-center"
    toastOptions={{
      style: {
        borderRadius: 0,
        background: "var(--sheet)",
        color: "var(--ink)",
        border: "1px solid var(--rule)",
      },
    }}
  />
);
