import type { BoardText as Content } from "./texts.ts";

const TONES: Readonly<Record<Content["tone"], string>> = {
  ink: "text-ink",
  faint: "text-faint",
  copper: "text-copper",
  suspect: "text-suspect",
  doubt: "text-doubt",
};

interface Props {
  readonly content: Content;
  /** Takes the colour of what it belongs to. */
  readonly inherit?: boolean;
  /** A rim in the paper's colour, where a line may run behind it. */
  readonly isRimmed?: boolean;
}

/** One line of text of the board. */
export function BoardText({ content, inherit = false, isRimmed = false }: Props) {
  const { text, x, y, size, bold, tone } = content;
  return (
    <text
      x={x}
      y={y}
      textAnchor="middle"
      fontSize={size}
      fontWeight={bold ? 700 : 400}
      className={inherit ? undefined : TONES[tone]}
      fill="currentColor"
      {...(isRimmed ? { stroke: "var(--paper)", strokeWidth: 5, paintOrder: "stroke" } : {})}
    >
      {text}
    </text>
  );
}
