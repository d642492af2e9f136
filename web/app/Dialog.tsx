import { type ReactNode, useEffect, useRef } from "react";
import { createPortal } from "react-dom";

/**
 * A modal sheet of paper: title, content, closes on Escape. It stands by itself, with none of the type around its
 * opener.
 */
export function Dialog({
  open,
  title,
  onClose,
  children,
  wide,
  must = false,
}: {
  open: boolean;
  title: string;
  onClose: () => void;
  children: ReactNode;
  wide?: boolean;
  /** A question that must be answered: Escape does not put it aside. */
  must?: boolean;
}) {
  const ref = useRef<HTMLDialogElement>(null);
  useEffect(() => {
    const dialog = ref.current;
    if (open && dialog && !dialog.open) dialog.showModal();
    if (!open && dialog?.open) dialog.close();
  }, [open]);
  if (!open) return null;
  return createPortal(
    <dialog
      ref={ref}
      aria-label={title}
      onCancel={(e) => must && e.preventDefault()}
      onClose={() => (must && open ? ref.current?.showModal() : onClose())}
      className={`border border-ink bg-paper p-5 text-ink2 ${wide ? "w-[760px]" : "w-[480px]"} max-w-[94vw]`}
    >
      <h2 className="mb-3 text-[17px]">{title}</h2>
      {children}
    </dialog>,
    document.body,
  );
}
