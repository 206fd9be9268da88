import { brief } from "./brief";
import { catalogues } from "./catalogues";
import { cover } from "./cover";
import { frame } from "./frame";
import { load } from "./load";
import { order } from "./order";
import { patch } from "./patch";
import { pick } from "./pick";
import { plan } from "./plan";
import { price } from "./price";
import { prove } from "./prove";
import { reach } from "./reach";
import { signal } from "./signal";
import { stack } from "./stack";
import { walk } from "./walk";

/** Every word on the screens, in one place: another language is another folder like this. */
export const words = {
  ...frame,
  ...brief,
  ...walk,
  ...plan,
  ...cover,
  ...signal,
  ...reach,
  ...load,
  ...pick,
  ...stack,
  ...patch,
  ...price,
  ...prove,
  ...order,
  ...catalogues,
} as const;
