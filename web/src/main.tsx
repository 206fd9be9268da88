import "@fontsource-variable/archivo/wdth.css";
import "@fontsource-variable/source-serif-4/wght.css";
import { QueryClient, QueryClientProvider } from "@tanstack/react-query";
import { lazy, StrictMode, Suspense } from "react";
import { createRoot } from "react-dom/client";
import { BrowserRouter, Navigate, Route, Routes } from "react-router";
import { isRefused } from "./api/client";
import { ProjectFrame } from "./frame/ProjectFrame";
import { Theme } from "./kit/theme";
import { lastPlace } from "./start/lastPlace";
import { Start } from "./start/Start";

const CataloguePage = lazy(() =>
  import("./catalogues/CataloguePage").then((page) => ({ default: page.CataloguePage })),
);
const Brief = lazy(() => import("./verbs/brief/Brief").then((verb) => ({ default: verb.Brief })));
const Walk = lazy(() => import("./verbs/walk/Walk").then((verb) => ({ default: verb.Walk })));
const Cover = lazy(() => import("./verbs/cover/Cover").then((verb) => ({ default: verb.Cover })));
const Reach = lazy(() => import("./verbs/reach/Reach").then((verb) => ({ default: verb.Reach })));
const Load = lazy(() => import("./verbs/load/Load").then((verb) => ({ default: verb.Load })));
const Stack = lazy(() => import("./verbs/stack/Stack").then((verb) => ({ default: verb.Stack })));
const Prove = lazy(() => import("./verbs/prove/Prove").then((verb) => ({ default: verb.Prove })));
const Patch = lazy(() => import("./verbs/patch/Patch").then((verb) => ({ default: verb.Patch })));
const Price = lazy(() => import("./verbs/price/Price").then((verb) => ({ default: verb.Price })));
const Pick = lazy(() => import("./verbs/pick/Pick").then((verb) => ({ default: verb.Pick })));

// once more where the server could not answer
const retry = (count: number, error: Error) => count < 1 && !isRefused(error);
const cache = new QueryClient({ defaultOptions: { queries: { retry, refetchOnWindowFocus: false } } });

function Home() {
  const last = lastPlace();
  return last ? <Navigate to={last} replace /> : <Start />;
}

createRoot(document.getElementById("root") as HTMLElement).render(
  <StrictMode>
    <Theme />
    <QueryClientProvider client={cache}>
      <BrowserRouter>
        <Routes>
          <Route path="/" element={<Home />} />
          <Route path="/projects" element={<Start />} />
          <Route
            path="/catalogues/:id?/:view?"
            element={
              <Suspense>
                <CataloguePage />
              </Suspense>
            }
          />
          <Route path="/projects/:id" element={<ProjectFrame />}>
            <Route index element={<Navigate to="walk" replace />} />
            <Route path="brief" element={<Brief />} />
            <Route path="walk/:view?" element={<Walk />} />
            <Route path="cover/:view?" element={<Cover />} />
            <Route path="reach/:view?" element={<Reach />} />
            <Route path="load/:view?" element={<Load />} />
            <Route path="pick" element={<Pick />} />
            <Route path="stack/:view?" element={<Stack />} />
            <Route path="prove/:view?" element={<Prove />} />
            <Route path="patch/:view?" element={<Patch />} />
            <Route path="price/:view?" element={<Price />} />
          </Route>
          <Route path="*" element={<Navigate to="/" replace />} />
        </Routes>
      </BrowserRouter>
    </QueryClientProvider>
  </StrictMode>,
);
