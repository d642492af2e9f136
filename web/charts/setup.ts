import {
  BarController,
  BarElement,
  CategoryScale,
  Chart as ChartJS,
  Filler,
  Legend,
  LineElement,
  LinearScale,
  LogarithmicScale,
  PointElement,
  Tooltip,
} from "chart.js";
import annotation from "chartjs-plugin-annotation";

ChartJS.register(
  BarController,
  BarElement,
  CategoryScale,
  LinearScale,
  LogarithmicScale,
  PointElement,
  LineElement,
  Filler,
  Tooltip,
  Legend,
  annotation,
);
ChartJS.defaults.font.family = '"Archivo Variable", sans-serif';
ChartJS.defaults.font.size = 11;
ChartJS.defaults.animation = false;

/** The value of a colour token now; charts are painted, so they cannot follow CSS by themselves. */
export const token = (name: string): string =>
  getComputedStyle(document.documentElement).getPropertyValue(`--${name}`).trim();
