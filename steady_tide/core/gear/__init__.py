"""What a crew owns: camera sheets, gear, kits."""
