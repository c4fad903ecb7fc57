/** Look of hover boxes in charts. */
export const tooltipStyle = {
  background: "var(--chakra-colors-sheet)",
  border: "1px solid var(--chakra-colors-line)",
  borderRadius: 3,
  fontSize: 12,
  color: "var(--chakra-colors-ink)",
};
/** Look of axes in charts. */
export const axisStyle = { tick: { fontSize: 11, fill: "var(--chakra-colors-ink2)" }, tickLine: false, axisLine: false };
