"""What is kept: tables, migrations, and one repository for each aggregate."""
