import { axesData, firstAxes, studyCsv, type Project, type Study, type StudyTable } from "@arroyo/core";
import { STUDY_PAGE_SCRIPT } from "./studyPageScript.ts";

const escaped = (text: string): string => text.replaceAll("&", "&amp;").replaceAll("<", "&lt;").replaceAll(">", "&gt;").replaceAll('"', "&quot;");

const STYLE = `
:root { color-scheme: light }
body { margin: 0; background: #F6F2EA; color: #23262B; font: 13px/1.4 system-ui, sans-serif }
header, section { padding: 10px 20px }
h1 { font-size: 17px; margin: 0 0 2px } h2 { font-size: 14px; margin: 0 0 4px }
p { margin: 0; color: #62676E }
#left { font-size: 24px; font-weight: 600 }
#stretches button { margin: 0 0 0 8px; padding: 2px 10px; border: 1px solid #0E6B80; border-radius: 12px; background: #DCEBED; font: inherit; cursor: pointer }
#axes { height: 380px; margin: 0 20px; background: #FDFBF7; border: 1px solid #DCD4C6 }
#shown { display: flex; flex-wrap: wrap; gap: 2px 14px; color: #62676E }
#chosen { columns: 3; column-gap: 40px } #chosen h2, #chosen p { column-span: all }
#chosen div { display: flex; justify-content: space-between; gap: 12px; border-bottom: 1px solid #DCD4C6; break-inside: avoid; padding: 2px 0 }
a { color: #0E6B80 }`;

/**
 * A study as one page that works from disk: the same axes as on the desk, with stretches, order, what is left and the chosen run.
 * @param about what its runs are of, in a sentence
 */
export function studyHtml(project: Project, study: Study, table: StudyTable, about: string): string {
  const data = axesData(`${project.name}: ${study.name}`, about, table);
  const plain = {
    ...data,
    runs: Array.from(data.runs),
    columns: data.columns.map((c) => ({ ...c, values: Array.from(c.values, (v) => (v === null || !Number.isFinite(v) ? null : Number(v.toPrecision(7)))) })),
  };
  const handed = JSON.stringify({ data: plain, first: firstAxes(data), csv: studyCsv(table) }).replaceAll("<", "\\u003c");
  return `<!doctype html>
<html lang="en">
<head>
<meta charset="utf-8">
<meta name="viewport" content="width=device-width">
<title>${escaped(data.title)}</title>
<style>${STYLE}</style>
</head>
<body>
<header>
<h1>${escaped(data.title)}</h1>
<p>${escaped(about)}</p>
<div><span id="left"></span><span id="of"></span><span id="stretches"></span></div>
</header>
<div id="axes"></div>
<section><p>Draw along an axis to keep a stretch of it; click the stretch to let it go. Drag a name to move its axis. The dashed line is the base. <a id="csv" download="runs.csv">All runs as CSV</a></p></section>
<section id="shown" aria-label="Axes shown"></section>
<section id="chosen" aria-live="polite"></section>
<script type="application/json" id="study">${handed}</script>
<script>${STUDY_PAGE_SCRIPT}</script>
</body>
</html>
`;
}
