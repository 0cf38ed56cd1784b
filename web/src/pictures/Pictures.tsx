import { PICTURE_LIMITS } from "@hound/core/record";
import { ImagePlus } from "lucide-react";
import { useEffect, useMemo, useRef, useState } from "react";
import { picturesApi } from "../api/pictures.ts";
import { DialogClose, DialogFrame } from "../app/DialogFrame.tsx";
import { dayAndTime } from "../words/times.ts";
import { picturesIn, type ShownPicture, usePictures } from "./usePictures.ts";

/** Photographs beside the board: a row of small ones where there are any; a pasted one is taken wherever it is pasted. */
export function Pictures({ job }: { job: string }) {
  const { pictures, add, remove } = usePictures(job);
  const [open, setOpen] = useState<ShownPicture | null>(null);
  const latest = useRef(add);
  latest.current = add;
  useEffect(() => {
    const onPaste = (event: ClipboardEvent) => {
      const files = picturesIn(event.clipboardData);
      if (files.length === 0) return;
      event.preventDefault();
      latest.current(files);
    };
    window.addEventListener("paste", onPaste);
    return () => window.removeEventListener("paste", onPaste);
  }, []);
  if (pictures.length === 0) return null;
  return (
    <section
      aria-label="Pictures"
      className="flex shrink-0 gap-2 overflow-x-auto border-t border-rule bg-paper px-3 py-1.5"
    >
      {pictures.map((p) => (
        <button
          key={p.id}
          type="button"
          aria-label={`Picture ${p.name}`}
          onClick={() => setOpen(p)}
          className="shrink-0 overflow-hidden rounded-lg border border-rule hover:border-copper"
        >
          <Image job={job} picture={p} isSmall className="h-16 w-24 object-cover" />
        </button>
      ))}
      <AddPicture add={add} isTile />
      {open && (
        <DialogFrame open wide onOpenChange={(isOpen) => !isOpen && setOpen(null)} title={open.name}>
          <Image job={job} picture={open} className="max-h-[66vh] w-full object-contain" />
          <p className="text-faint">
            {open.createdAt === null ? "not saved yet" : dayAndTime(new Date(open.createdAt))}
            {open.who ? `, ${open.who}` : ""}
          </p>
          <div className="flex justify-end gap-3">
            <button
              type="button"
              className="rounded-lg border border-rule px-4 py-2 hover:bg-band"
              onClick={() => {
                remove(open);
                setOpen(null);
              }}
            >
              Delete
            </button>
            <DialogClose>Close</DialogClose>
          </div>
        </DialogFrame>
      )}
    </section>
  );
}

interface ImageProps {
  readonly job: string;
  readonly picture: ShownPicture;
  /** A small one says nothing: its button has the name. */
  readonly isSmall?: boolean;
  readonly className: string;
}

function Image({ job, picture: { id, name, file }, isSmall = false, className }: ImageProps) {
  const here = useMemo(() => (file ? URL.createObjectURL(file) : null), [file]);
  useEffect(() => () => (here ? URL.revokeObjectURL(here) : undefined), [here]);
  return <img src={here ?? picturesApi.address(job, id, isSmall)} alt={isSmall ? "" : name} className={className} />;
}

interface AddPictureProps {
  readonly add: (files: readonly File[]) => void;
  readonly isTile?: boolean;
}

/** Takes pictures from the device, or its camera. */
export function AddPicture({ add, isTile = false }: AddPictureProps) {
  const input = useRef<HTMLInputElement>(null);
  return (
    <>
      <button
        type="button"
        onClick={() => input.current?.click()}
        className={`flex shrink-0 items-center justify-center gap-2 rounded-lg border border-rule hover:bg-band ${isTile ? "h-16 w-16" : "px-3 py-2"}`}
        aria-label={isTile ? "Add a picture" : undefined}
      >
        <ImagePlus size={22} aria-hidden /> {!isTile && "Add a picture"}
      </button>
      <input
        ref={input}
        type="file"
        multiple
        accept={PICTURE_LIMITS.types.join(",")}
        aria-label="Picture files"
        className="hidden"
        onChange={(e) => {
          add([...(e.target.files ?? [])]);
          e.target.value = "";
        }}
      />
    </>
  );
}
