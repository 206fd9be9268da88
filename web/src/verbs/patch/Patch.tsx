import { lazy } from "react";
import { VerbViews } from "../../frame/VerbViews";
import { words } from "../../words";
import { PortsView } from "./PortsView";

const NetworksView = lazy(() => import("./NetworksView").then((module) => ({ default: module.NetworksView })));
const AddressView = lazy(() => import("./AddressView").then((module) => ({ default: module.AddressView })));
const LabelView = lazy(() => import("./LabelView").then((module) => ({ default: module.LabelView })));
const FoundView = lazy(() => import("./FoundView").then((module) => ({ default: module.FoundView })));
const VIEWS = {
  ports: PortsView,
  networks: NetworksView,
  addresses: AddressView,
  labels: LabelView,
  found: FoundView,
} as const;

/** Which jack is which position is which port, and what may pass between networks. */
export function Patch() {
  return (
    <VerbViews verb="patch" label={words.patch.views} names={words.patch.view} views={VIEWS} drawings={["ports"]} />
  );
}
