import { Toaster } from "sonner";

/** px from the foot of a phone's page, over the bars of the version and of the stations. */
const OVER_BARS = 112;

/** Where short messages stand for a while: never on what is tapped next. */
export const Messages = () => (
  <Toaster
    position="bottom-center"
    mobileOffset={{ bottom: OVER_BARS }}
    toastOptions={{
      style: {
        borderRadius: 0,
        fontFamily: "inherit",
        background: "var(--sheet)",
        color: "var(--ink)",
        border: "1px solid var(--rule)",
      },
    }}
  />
);
