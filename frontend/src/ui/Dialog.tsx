import { useEffect, useRef, type ReactNode } from "react";

/** A dialog on the browser's own element: it traps focus and closes with Escape. */
export function Dialog({
  title,
  close,
  wide = false,
  children,
}: {
  title: string;
  close: () => void;
  wide?: boolean;
  children: ReactNode;
}) {
  const ref = useRef<HTMLDialogElement>(null);
  useEffect(() => {
    const dialog = ref.current;
    if (!dialog || dialog.open) return;
    dialog.showModal();
    // The browser would take the first button; a form wants its first field.
    dialog.querySelector<HTMLElement>("[data-first]")?.focus();
  }, []);
  return (
    <dialog
      ref={ref}
      onClose={close}
      className={`bg-base-100 text-base-content border-base-content/50 m-auto max-h-[85vh] w-full border p-0 backdrop:bg-black/40 ${wide ? "max-w-3xl" : "max-w-md"}`}
      aria-label={title}
    >
      <div className="flex items-center justify-between border-b border-base-300 px-4 py-2">
        <h2 className="text-[17px] font-semibold">{title}</h2>
        <button type="button" className="btn btn-ghost btn-sm" onClick={() => ref.current?.close()}>
          Close
        </button>
      </div>
      <div className="p-4">{children}</div>
    </dialog>
  );
}
