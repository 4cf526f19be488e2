alter table client_application add column addresses text null;
