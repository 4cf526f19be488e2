import { App as AntApp, ConfigProvider, Skeleton } from "antd";
import { lazy, Suspense } from "react";
import { Navigate, Route, Routes } from "react-router";
import { AccessPage } from "./access/AccessPage";
import { ClientPage } from "./access/ClientPage";
import { AccountPage } from "./account/AccountPage";
import { SignInPage } from "./account/SignInPage";
import { BeginPage } from "./begin/BeginPage";
import { NodesPage } from "./nodes/NodesPage";
import { DraftPage } from "./drafts/DraftPage";
import { DraftsPage } from "./drafts/DraftsPage";
import { ModulesPage } from "./pages/ModulesPage";
import { OperationPage } from "./pages/OperationPage";
import { Frame } from "./parts/Frame";
import { ReleasesPage } from "./releases/ReleasesPage";
import { RequestsPage } from "./requests/RequestsPage";
import { ReviewPage } from "./reviews/ReviewPage";
import { ReviewsPage } from "./reviews/ReviewsPage";
import { SourcesPage } from "./sources/SourcesPage";
import { darkTheme, lightTheme } from "./theme/theme";
import { WorkbenchPage } from "./workbench/WorkbenchPage";
import { useAppearance } from "./theme/useAppearance";
import { useReducedMotion } from "./theme/useReducedMotion";

// the editor is large
const ModulePage = lazy(() => import("./module/ModulePage"));

export function App() {
  const { appearance, toggle } = useAppearance();
  const theme = appearance === "dark" ? darkTheme : lightTheme;
  const isStill = useReducedMotion();
  return (
    <ConfigProvider theme={isStill ? { ...theme, token: { ...theme.token, motion: false } } : theme}>
      <AntApp>
        <Frame appearance={appearance} onToggle={toggle}>
          <Routes>
            <Route path="/" element={<Navigate to="/modules" replace />} />
            <Route path="/sign-in" element={<SignInPage />} />
            <Route path="/modules" element={<ModulesPage />} />
            <Route path="/modules/:name/releases" element={<ReleasesPage />} />
            <Route path="/modules/:name/:version" element={<OperationPage appearance={appearance} />} />
            <Route path="/begin" element={<BeginPage />} />
            <Route path="/drafts" element={<DraftsPage />} />
            <Route path="/drafts/:name/:version" element={<DraftPage />} />
            <Route
              path="/drafts/:name/:version/edit"
              element={
                <Suspense fallback={<Skeleton active />}>
                  <ModulePage appearance={appearance} />
                </Suspense>
              }
            />
            <Route path="/requests" element={<RequestsPage />} />
            <Route path="/reviews" element={<ReviewsPage />} />
            <Route path="/reviews/:id" element={<ReviewPage />} />
            <Route path="/sources" element={<SourcesPage />} />
            <Route path="/sources/:name" element={<SourcesPage />} />
            <Route path="/nodes" element={<NodesPage />} />
            <Route path="/account" element={<AccountPage />} />
            <Route path="/access" element={<AccessPage />} />
            <Route path="/access/clients/:name" element={<ClientPage />} />
            <Route path="/workbench" element={<WorkbenchPage appearance={appearance} />} />
            <Route path="*" element={<Navigate to="/modules" replace />} />
          </Routes>
        </Frame>
      </AntApp>
    </ConfigProvider>
  );
}
