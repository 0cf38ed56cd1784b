import type { BoardText as Content } from "./texts.ts";

const TONES: Readonly<Record<Content["tone"], string>> = {
  ink: "text-ink",
  faint: "text-faint",
  copper: "text-copper",
  suspect: "text-suspect",
  doubt: "text-doubt",
};

/** One line of text of the board. `inherit` takes the colour of what it belongs to. */
export function BoardText({ content, inherit = false }: { content: Content; inherit?: boolean }) {
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
    >
      {text}
    </text>
  );
}
