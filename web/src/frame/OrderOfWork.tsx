import { useEffect, useRef } from "react";
import { NavLink, useLocation } from "react-router";
import styled from "styled-components";
import { useWork } from "../api/work";
import { NARROW } from "../kit/theme";
import { words } from "../words";

export const VERBS = ["brief", "walk", "cover", "reach", "load", "pick", "stack", "patch", "price", "prove"] as const;

/** The verbs in the order practitioners work, each with the count of what is open there. */
export function OrderOfWork() {
  const { id, outcome } = useWork();
  const open = (verb: string) =>
    outcome.balance.findings.filter((finding) => finding.verb === verb && finding.weight !== "note").length;
  const { pathname } = useLocation();
  const order = useRef<HTMLElement>(null);
  // biome-ignore lint/correctness/useExhaustiveDependencies: on a phone the verb of the address comes into view
  useEffect(() => {
    const active = order.current?.querySelector<HTMLElement>("a.active");
    if (order.current && active)
      order.current.scrollLeft = active.offsetLeft - (order.current.clientWidth - active.offsetWidth) / 2;
  }, [pathname]);
  return (
    <Order ref={order} aria-label={words.orderOfWork}>
      {VERBS.map((verb) => (
        <NavLink key={verb} to={`/projects/${id}/${verb}`}>
          {words.verbs[verb]}
          {open(verb) > 0 && <span title={words.findings.open(open(verb))}>{open(verb)}</span>}
        </NavLink>
      ))}
    </Order>
  );
}

const Order = styled.nav`
  grid-area: order; border-right: 1px solid var(--rule); padding-top: 16px;
  a {
    display: flex; justify-content: space-between; padding: 6px 14px 6px 15px; border-left: 5px solid transparent;
    font: 500 17px var(--voice); color: var(--ink); text-decoration: none;
  }
  a.active { border-left-color: var(--clay); font-weight: 700; }
  a:hover { background: var(--earth); }
  span { font: 600 12.5px var(--data); color: var(--clay); }
  ${NARROW} {
    display: flex; border-right: 0; border-bottom: 1px solid var(--rule); padding: 0; overflow-x: auto; scrollbar-width: none;
    a { border-left: 0; border-bottom: 4px solid transparent; gap: 5px; padding: 9px 10px 5px; flex: none; }
    a.active { border-bottom-color: var(--clay); }
  }
`;
