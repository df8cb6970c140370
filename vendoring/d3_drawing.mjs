// Makes tests/reference/d3_drawing.json: what d3 gives for time ticks, stacks, sectors and treemaps.
// Run: npm install d3-scale d3-shape d3-hierarchy (ISC licence), then node d3_drawing.mjs > ../tests/reference/d3_drawing.json
import { scaleUtc } from "d3-scale";
import { arc, pie, stack, stackOffsetDiverging } from "d3-shape";
import { hierarchy, treemap, treemapSquarify } from "d3-hierarchy";

// No steps of two days: d3 counts them from 1970 in UTC, Ypsil from the first of the month.
const spans = [
  ["2026-01-15T00:00:00Z", "2026-12-02T00:00:00Z", 4], ["2026-01-01T00:00:00Z", "2026-12-31T00:00:00Z", 12],
  ["2024-10-01T00:00:00Z", "2026-09-01T00:00:00Z", 6], ["1998-05-03T00:00:00Z", "2026-09-01T00:00:00Z", 6],
  ["1700-05-03T00:00:00Z", "2026-09-01T00:00:00Z", 8], ["2026-03-01T00:00:00Z", "2026-03-09T00:00:00Z", 8],
  ["2026-03-01T05:10:00Z", "2026-03-01T19:40:00Z", 5],
  ["2026-03-01T05:10:00Z", "2026-03-02T19:40:00Z", 6], ["2026-03-01T05:10:00Z", "2026-03-01T05:52:00Z", 5],
  ["2026-03-01T05:10:03Z", "2026-03-01T05:10:50Z", 5], ["2020-02-29T00:00:00Z", "2028-02-29T00:00:00Z", 5],
];
const times = spans.map(([start, stop, count]) => ({
  start, stop, count, ticks: scaleUtc([new Date(start), new Date(stop)], [0, 1]).ticks(count).map((tick) => tick.toISOString()),
}));

const rows = [[3, -1, 0, 5], [2, 4, -6, 1], [-2, -3, 2, 0.5]];
const data = rows[0].map((_, index) => Object.fromEntries(rows.map((row, series) => [series, row[index]])));
const stacks = stack().keys([0, 1, 2]).offset(stackOffsetDiverging)(data).map((series) => series.map(([low, high]) => [low, high]));

const amounts = [30, 25, 20, 15, 10];
const slices = pie().sort(null)(amounts).map(({ startAngle, endAngle }) => ({
  start: startAngle, stop: endAngle, path: arc()({ innerRadius: 40, outerRadius: 100, startAngle, endAngle }),
}));

const maps = [[[6, 6, 4, 3, 2, 2, 1], 6, 4], [[50, 20, 10, 9, 5, 3, 2, 1], 300, 200], [[1, 1, 1, 1], 100, 400], [[9], 30, 20]];
const treemaps = maps.map(([values, width, height]) => {
  const root = hierarchy({ children: values.map((value) => ({ value })) }).sum((one) => one.value || 0);
  treemap().tile(treemapSquarify.ratio(1)).size([width, height])(root);
  return { values, width, height, rooms: root.leaves().map(({ x0, y0, x1, y1 }) => [x0, y0, x1 - x0, y1 - y0]) };
});
console.log(JSON.stringify({ times, rows, stacks, amounts, slices, treemaps }, null, 1));
