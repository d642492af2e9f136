import { type DragEvent, type ReactNode, useState } from "react";
import { toast } from "sonner";
import { BodyFile } from "./BodyFile";
import { OutlineFile } from "./OutlineFile";

/** Takes the file of a shape that is dropped on what is in it: an outline (SVG), a mesh (STL), a table of offsets. */
export function ShapeDrop({ children, onAdded }: { children: ReactNode; onAdded: (surface: string | null) => void }) {
  const [given, setGiven] = useState<File | null>(null);
  const drop = (event: DragEvent) => {
    const [file] = event.dataTransfer.files;
    if (!file) return;
    event.preventDefault();
    if (/\.(svg|stl|csv|tsv|txt)$/i.test(file.name)) setGiven(file);
    else toast.info(`${file.name} is no shape: SVG outlines, STL meshes and tables of offsets (CSV) are read here.`);
  };
  const outline = given !== null && /\.svg$/i.test(given.name);
  return (
    // biome-ignore lint/a11y/noStaticElementInteractions: what is dropped here can be chosen by the buttons below too
    <div onDragOver={(e) => e.dataTransfer.types.includes("Files") && e.preventDefault()} onDrop={drop} data-drop>
      {children}
      {given && outline && <OutlineFile first={given} onClose={() => setGiven(null)} onAdded={onAdded} />}
      {given && !outline && <BodyFile first={given} onClose={() => setGiven(null)} />}
    </div>
  );
}
