// Writes what d3-array gives for ticks and nice domains: node vendoring/d3_ticks.mjs > tests/reference/d3_ticks.json
import { nice, ticks } from "d3-array";
const cases = [[0, 97, 5], [0, 1, 10], [-3, 4, 4], [0, 0.003, 5], [12, 4803, 6], [0, 1e6, 5], [-0.7, 0.2, 5], [0, 7, 5],
  [3.2, 3.9, 4], [0, 123456, 8], [-1200, -35, 5], [0, 41203, 5], [0.001, 0.0049, 3], [5, 6, 10], [0, 2.5e9, 5]];
console.log(JSON.stringify(cases.map(([start, stop, count]) => ({ start, stop, count, ticks: ticks(start, stop, count), nice: nice(start, stop, count) })), null, 1));
