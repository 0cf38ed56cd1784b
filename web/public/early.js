// Written anew when the pages are built: it asks early for what a job's page needs.
