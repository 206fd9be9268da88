import { Suspense, useEffect, useState } from "react";
import { Outlet, useLocation, useNavigate, useParams } from "react-router";
import styled from "styled-components";
import { useNotice, useWork, WorkProvider } from "../api/work";
import { Ground } from "../instruments/Ground";
import { Word } from "../kit/parts";
import { NARROW } from "../kit/theme";
import { rememberPlace } from "../start/lastPlace";
import { words } from "../words";
import { Header } from "./Header";
import { KeysHelp } from "./KeysHelp";
import { OrderOfWork } from "./OrderOfWork";
import { useKeys } from "./useKeys";

/** The frame of one project: header, order of work, the verb at hand, and the ground under it. */
export function ProjectFrame() {
  const { id } = useParams();
  const { pathname } = useLocation();
  const number = Number(id);
  useEffect(() => rememberPlace(pathname), [pathname]);
  return (
    <WorkProvider key={number} id={number} waiting={<Waiting />} failed={(why) => <Failed why={why} />}>
      <Frame />
    </WorkProvider>
  );
}

function Frame() {
  const [helping, setHelping] = useState(false);
  const { say, outcome } = useWork();
  const notice = useNotice();
  useKeys(() => setHelping(true));
  useEffect(() => {
    document.title = `${outcome.project.name} · ${words.name}`;
  }, [outcome.project.name]);
  return (
    <Layout>
      <Header onKeys={() => setHelping(true)} />
      <OrderOfWork />
      <main>
        {notice && (
          <div className="notice" role="alert">
            <span>{notice}</span>
            <button type="button" onClick={() => say("")}>
              {words.dismiss}
            </button>
          </div>
        )}
        <Suspense fallback={<Waiting />}>
          <Outlet />
        </Suspense>
      </main>
      <Ground />
      <KeysHelp isOpen={helping} onOpenChange={setHelping} />
    </Layout>
  );
}

const Waiting = () => <Centre aria-busy="true">…</Centre>;

function Failed({ why }: { why: string }) {
  const navigate = useNavigate();
  return (
    <Centre>
      <p role="alert">{why}</p>
      <Word onPress={() => navigate("/projects")}>{words.projects}</Word>
    </Centre>
  );
}

const Centre = styled.div`
  min-height: 60vh; display: grid; place-content: center; gap: 10px; justify-items: center; font-family: var(--voice); font-size: 16px;
`;

const Layout = styled.div`
  height: 100%; display: grid; grid-template: 52px minmax(0, 1fr) auto / 132px minmax(0, 1fr);
  grid-template-areas: "header header" "order main" "ground ground";
  > main { grid-area: main; overflow: auto; position: relative; }
  .notice {
    position: sticky; top: 0; z-index: 3; display: flex; justify-content: space-between; gap: 20px; padding: 8px 16px;
    background: var(--earth); border-bottom: 1px solid var(--clay); font-family: var(--voice); font-size: 15px;
    button { background: none; border: 0; text-decoration: underline; cursor: pointer; }
  }
  ${NARROW} {
    height: auto; min-height: 100%; grid-template: auto auto 1fr auto / minmax(0, 1fr);
    grid-template-areas: "header" "order" "main" "ground";
    > main { overflow: visible; }
  }
  @media print { display: block; > main { overflow: visible; } }
`;
