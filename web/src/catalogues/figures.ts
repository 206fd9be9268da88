import type { Model } from "../api/client";
import { speed } from "../kit/figures";

/** Ports in words: "8 × 2.5 G, 16 × 1 G". */
export function ports(model: Model): string {
  if ("ports" in model) return model.ports.map((group) => `${group.count} × ${speed(group.speed_mbit)}`).join(", ");
  return "speed_mbit" in model ? speed(model.speed_mbit) : "";
}

/** Powered ports in words: "8 class 4". */
export function powered(model: Model): string {
  if (model.kind === "injector") return `class ${model.poe_class}`;
  if (!("ports" in model)) return "";
  const groups = model.ports.filter((group) => group.poe_class != null);
  return groups.map((group) => `${group.count} class ${group.poe_class}`).join(", ");
}

export function slots(model: Model): string {
  if (!("slots" in model)) return "";
  return (model.slots ?? []).map((group) => `${group.count} × ${speed(group.speed_mbit)}`).join(", ");
}

/** How many pieces the price is for. */
export function pack(model: Model): number {
  return "pack" in model ? (model.pack ?? 1) : 1;
}

/** A cell as it is read beside others: rates as rates, in place of how they are typed. */
export function read(model: Model, key: string, cell: string): string {
  if ((key === "ports" || key === "slots") && "ports" in model)
    return (model[key] ?? [])
      .map(
        (group) =>
          `${group.count} × ${speed(group.speed_mbit)}` +
          ("poe_class" in group && group.poe_class != null ? ` class ${group.poe_class}` : ""),
      )
      .join(", ");
  if (key === "wan_mbit" && "wan_mbit" in model) return model.wan_mbit.map(speed).join(", ");
  return key === "speed_mbit" || key === "throughput_mbit" ? speed(Number(cell)) : cell;
}

/** Figures by which lines are sorted. */
export const RANK: Record<string, (model: Model) => string | number> = {
  name: (model) => model.name.toLowerCase(),
  kind: (model) => model.kind,
  ports: (model) => ("ports" in model ? model.ports.reduce((sum, group) => sum + group.count, 0) : 0),
  powered: (model) =>
    "ports" in model
      ? model.ports.reduce((sum, group) => sum + (group.poe_class == null ? 0 : group.count), 0)
      : "poe_class" in model
        ? 1
        : 0,
  watts: (model) => ("poe_budget_w" in model ? (model.poe_budget_w ?? 0) : 0),
  slots: (model) => ("slots" in model ? (model.slots ?? []).reduce((sum, group) => sum + group.count, 0) : 0),
  fan: (model) => ("fanless" in model ? Number(model.fanless) : 2),
  managed: (model) => ("managed" in model ? Number(!model.managed) : 2),
  units: (model) => ("units" in model ? (model.units ?? 0) : 0),
  draw: (model) => ("own_draw_w" in model ? model.own_draw_w : 0),
  yearly: (model) => model.yearly_minor ?? 0,
  price: (model) => model.price_minor / pack(model),
};

/** What the filter looks through. */
export function said(model: Model): string {
  const parts = [model.name, model.kind, ports(model), powered(model), slots(model)];
  if ("fanless" in model) parts.push(model.fanless ? "fanless" : "fan");
  if ("managed" in model) parts.push(model.managed ? "managed" : "plain");
  if ("form" in model) parts.push(model.form);
  if (!model.in_stock) parts.push("out of stock");
  return parts.join(" ").toLowerCase();
}
