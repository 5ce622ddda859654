"""What has been chosen for a build, part by part, before anything is computed with it."""
