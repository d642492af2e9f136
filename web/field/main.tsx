import "@fontsource-variable/archivo/wdth.css";
import "@fontsource-variable/spline-sans-mono";
import "../styles.css";
import { StrictMode, useEffect } from "react";
import { createRoot } from "react-dom/client";
import { toast } from "sonner";
import { Messages } from "../app/Messages";
import { OutboxBar } from "../app/OutboxBar";
import { onSent, openOutbox } from "../app/outbox";
import { PreferencesProvider } from "../app/preferences";
import { FieldPage } from "./FieldPage";
import { startWithoutServer } from "./startWithoutServer";
import { takeTypedBeforeLeaving } from "../app/takeTyped";

/** Says when an entry reached the server. */
function Sent() {
  useEffect(() => onSent((entry, number) => void toast.success(`Run ${number} of ${entry.label} is in the log.`)), []);
  return null;
}

// The page at the site is small and stands by itself: it is opened over a phone's network, or with none at all.
void openOutbox();
startWithoutServer();
takeTypedBeforeLeaving();

const root = document.getElementById("root");
if (root)
  createRoot(root).render(
    <StrictMode>
      <PreferencesProvider>
        <FieldPage />
        <Sent />
        <OutboxBar />
        <Messages />
      </PreferencesProvider>
    </StrictMode>,
  );
