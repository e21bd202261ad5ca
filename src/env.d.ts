/// <reference types="astro/client" />

declare namespace App {
  interface Locals {
    person: import('./core/access/rules').Person | null;
  }
}
