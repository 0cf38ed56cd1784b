import { PICTURE_LIMITS } from "@hound/core/record";
import { ImagePlus, RotateCw } from "lucide-react";
import { useEffect, useMemo, useRef, useState } from "react";
import { picturesApi } from "../api/pictures.ts";
import { DialogClose, DialogFrame } from "../app/DialogFrame.tsx";
import { useKept } from "../desk/useKept.ts";
import { dayAndTime } from "../words/times.ts";
import { picturesIn, type ShownPicture, usePictures } from "./usePictures.ts";

/** Photographs beside the board: a row of small ones where there are any; a pasted one is taken wherever it is pasted. */
export function Pictures({ job }: { job: string }) {
  const { pictures, add } = usePictures(job);
  const [opened, setOpen] = useState<string | null>(null);
  const open = pictures.find((p) => p.id === opened);
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
          aria-label={`Picture ${p.caption || p.name}`}
          onClick={() => setOpen(p.id)}
          className="shrink-0 overflow-hidden rounded-lg border border-rule hover:border-copper"
        >
          <Image job={job} picture={p} isSmall className="h-16 w-24 object-cover" />
        </button>
      ))}
      <AddPicture add={add} isTile />
      {open && <PictureDialog job={job} picture={open} onClose={() => setOpen(null)} />}
    </section>
  );
}

interface PictureDialogProps {
  readonly job: string;
  readonly picture: ShownPicture;
  readonly onClose: () => void;
}

/** One photograph, large, with what is said of it. */
function PictureDialog({ job, picture, onClose }: PictureDialogProps) {
  const { change, remove } = usePictures(job);
  const { value: caption, set, forget } = useKept(`caption ${picture.id}`, picture.caption);
  // What is pressed shows at once, and the next press goes on from it; the list follows when it is noted.
  const [pressed, setPressed] = useState({ turns: picture.turns, inReport: picture.inReport });
  const press = (what: Partial<typeof pressed>) => {
    setPressed({ ...pressed, ...what });
    change(picture, what);
  };
  const save = () => {
    if (caption !== picture.caption) change(picture, { caption: caption.trim() });
    forget();
  };
  const close = () => {
    save();
    onClose();
  };
  return (
    <DialogFrame open wide onOpenChange={(isOpen) => !isOpen && close()} title={picture.caption || picture.name}>
      <Image job={job} picture={{ ...picture, ...pressed }} className="max-h-[56vh] w-full object-contain" />
      <form
        className="flex flex-wrap items-center gap-3"
        onSubmit={(event) => {
          event.preventDefault();
          close();
        }}
      >
        <input
          value={caption}
          maxLength={300}
          dir="auto"
          aria-label="Caption"
          placeholder="What is to be seen here"
          onChange={(e) => set(e.target.value)}
          onBlur={save}
          className="min-w-0 grow basis-60 rounded-lg border border-field bg-paper px-3 py-2"
        />
        <label className="flex items-center gap-2">
          <input
            type="checkbox"
            checked={pressed.inReport}
            onChange={(e) => press({ inReport: e.target.checked })}
            className="size-5 accent-copper"
          />
          on the report
        </label>
      </form>
      <div className="flex flex-wrap items-center justify-end gap-3">
        <p className="grow text-faint">
          {picture.createdAt === null ? "not saved yet" : dayAndTime(new Date(picture.createdAt))}
          {picture.who ? `, ${picture.who}` : ""}
        </p>
        <button type="button" className={BUTTON} onClick={() => press({ turns: (pressed.turns + 1) % 4 })}>
          <RotateCw size={20} aria-hidden /> Turn
        </button>
        <button
          type="button"
          className={BUTTON}
          onClick={() => {
            forget();
            remove(picture);
            onClose();
          }}
        >
          Delete
        </button>
        <DialogClose>Close</DialogClose>
      </div>
    </DialogFrame>
  );
}

const BUTTON = "flex items-center gap-2 rounded-lg border border-rule px-4 py-2 hover:bg-band";

interface ImageProps {
  readonly job: string;
  readonly picture: ShownPicture;
  /** A small one says nothing: its button has the name. */
  readonly isSmall?: boolean;
  readonly className: string;
}

function Image({ job, picture, isSmall = false, className }: ImageProps) {
  const { id, name, caption, turns, file } = picture;
  const here = useMemo(() => (file ? URL.createObjectURL(file) : null), [file]);
  useEffect(() => () => (here ? URL.revokeObjectURL(here) : undefined), [here]);
  return (
    <img
      src={here ?? picturesApi.address(job, id, { turns, isSmall })}
      alt={isSmall ? "" : caption || name}
      // The server turns what it has; what is here alone is turned by the page.
      style={here && turns > 0 ? { rotate: `${90 * turns}deg` } : undefined}
      className={className}
    />
  );
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
