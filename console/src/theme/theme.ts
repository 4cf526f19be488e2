import { type ThemeConfig, theme } from "antd";

/** The palette: canal water, quay stone, and the ochre of a painted lock beam. */
export const water = "#2d7a7b";
export const waterBright = "#5fb3b0";
export const ochre = "#b9772a";
export const brick = "#b4483a";

const shape = {
  borderRadius: 6,
  fontSize: 14,
  fontFamily: "system-ui, -apple-system, 'Segoe UI', 'Noto Sans', 'DejaVu Sans', sans-serif",
  fontFamilyCode: "ui-monospace, 'SF Mono', 'DejaVu Sans Mono', Menlo, monospace",
};

export const lightTheme: ThemeConfig = {
  algorithm: theme.defaultAlgorithm,
  token: {
    ...shape,
    colorPrimary: water,
    colorInfo: water,
    colorWarning: ochre,
    colorError: brick,
    colorBgLayout: "#f4f2ed",
    colorBgContainer: "#fffefb",
    colorInfoBg: "#e4f0ee",
    colorInfoBorder: "#b4d3d0",
    controlItemBgActive: "#dcebe9",
    controlItemBgActiveHover: "#cfe4e1",
    colorText: "#23302f",
    colorBorderSecondary: "#e3dfd5",
  },
};

export const darkTheme: ThemeConfig = {
  algorithm: theme.darkAlgorithm,
  token: {
    ...shape,
    colorPrimary: waterBright,
    colorInfo: waterBright,
    colorWarning: "#d9a25c",
    colorError: "#e08376",
    colorBgLayout: "#141a1a",
    colorBgContainer: "#1b2323",
    colorInfoBg: "#1d3233",
    colorInfoBorder: "#2f5556",
    controlItemBgActive: "#20393a",
    controlItemBgActiveHover: "#274546",
    colorBgElevated: "#212b2b",
    colorText: "#dfe7e5",
    colorBorderSecondary: "#2c3838",
  },
};
