using System;
using Microsoft.EntityFrameworkCore.Migrations;

#nullable disable

namespace Walkdown.Storage.Migrations
{
    /// <inheritdoc />
    public partial class Trust : Migration
    {
        /// <inheritdoc />
        protected override void Up(MigrationBuilder migrationBuilder)
        {
            // Two labels that differ only in the case of a letter could be kept before: the later one gets a mark, so that both stay and can be told apart.
            foreach (var (table, column, within) in new[]
                     {
                         ("Areas", "Name", "JobId"), ("Cabinets", "Label", "JobId"), ("Devices", "Label", "JobId"), ("Units", "Serial", "JobId"), ("Runs", "Label", "JobId"),
                         ("Ports", "Switch", "CabinetId || o.Number"), ("Sources", "Label", "JobId || o.Kind || ifnull(o.CabinetId, '')"),
                     })
                migrationBuilder.Sql($"""
                    UPDATE {table} SET {column} = {column} || ' (' || lower(substr(Id, 32)) || ')'
                    WHERE {column} <> '' AND EXISTS (SELECT 1 FROM {table} o WHERE o.{within} = {Own(table, within)} AND o.{column} = {table}.{column} COLLATE NOCASE AND o.rowid < {table}.rowid);
                    """);

            migrationBuilder.AlterColumn<string>(
                name: "Serial",
                table: "Units",
                type: "TEXT",
                nullable: false,
                collation: "NOCASE",
                oldClrType: typeof(string),
                oldType: "TEXT");

            migrationBuilder.AlterColumn<string>(
                name: "Label",
                table: "Sources",
                type: "TEXT",
                nullable: false,
                collation: "NOCASE",
                oldClrType: typeof(string),
                oldType: "TEXT");

            migrationBuilder.AlterColumn<string>(
                name: "Label",
                table: "Runs",
                type: "TEXT",
                nullable: false,
                collation: "NOCASE",
                oldClrType: typeof(string),
                oldType: "TEXT");

            migrationBuilder.AddColumn<int>(
                name: "CheckVersion",
                table: "Readings",
                type: "INTEGER",
                nullable: false,
                defaultValue: 0);

            migrationBuilder.AddColumn<Guid>(
                name: "ObservationId",
                table: "Readings",
                type: "TEXT",
                nullable: true);

            migrationBuilder.AlterColumn<string>(
                name: "Switch",
                table: "Ports",
                type: "TEXT",
                nullable: false,
                collation: "NOCASE",
                oldClrType: typeof(string),
                oldType: "TEXT");

            migrationBuilder.AddColumn<long>(
                name: "LeftAt",
                table: "People",
                type: "INTEGER",
                nullable: true);

            migrationBuilder.AddColumn<bool>(
                name: "UnexpectedRefuses",
                table: "Jobs",
                type: "INTEGER",
                nullable: false,
                defaultValue: false);

            migrationBuilder.AddColumn<long>(
                name: "RetiredAt",
                table: "Instruments",
                type: "INTEGER",
                nullable: true);

            migrationBuilder.AlterColumn<string>(
                name: "Supply",
                table: "Devices",
                type: "TEXT",
                nullable: true,
                collation: "NOCASE",
                oldClrType: typeof(string),
                oldType: "TEXT",
                oldNullable: true);

            migrationBuilder.AlterColumn<string>(
                name: "Label",
                table: "Devices",
                type: "TEXT",
                nullable: false,
                collation: "NOCASE",
                oldClrType: typeof(string),
                oldType: "TEXT");

            migrationBuilder.AddColumn<string>(
                name: "Signature",
                table: "Cards",
                type: "TEXT",
                nullable: false,
                defaultValue: "");

            migrationBuilder.AddColumn<int>(
                name: "Unexpected",
                table: "Cards",
                type: "INTEGER",
                nullable: false,
                defaultValue: 0);

            migrationBuilder.AlterColumn<string>(
                name: "Label",
                table: "Cabinets",
                type: "TEXT",
                nullable: false,
                collation: "NOCASE",
                oldClrType: typeof(string),
                oldType: "TEXT");

            migrationBuilder.AlterColumn<string>(
                name: "Name",
                table: "Areas",
                type: "TEXT",
                nullable: false,
                collation: "NOCASE",
                oldClrType: typeof(string),
                oldType: "TEXT");

            migrationBuilder.CreateTable(
                name: "Observations",
                columns: table => new
                {
                    Id = table.Column<Guid>(type: "TEXT", nullable: false),
                    JobId = table.Column<Guid>(type: "TEXT", nullable: false),
                    DeviceId = table.Column<Guid>(type: "TEXT", nullable: false),
                    Row = table.Column<string>(type: "TEXT", nullable: false),
                    Source = table.Column<string>(type: "TEXT", nullable: false),
                    Serial = table.Column<string>(type: "TEXT", nullable: false),
                    RawJson = table.Column<string>(type: "TEXT", nullable: false),
                    ValuesJson = table.Column<string>(type: "TEXT", nullable: false),
                    At = table.Column<long>(type: "INTEGER", nullable: false)
                },
                constraints: table =>
                {
                    table.PrimaryKey("PK_Observations", x => x.Id);
                });

            migrationBuilder.Sql("CREATE TRIGGER Observations_no_update BEFORE UPDATE ON Observations BEGIN SELECT RAISE(ABORT, 'Observations: rows are only added'); END;");
            migrationBuilder.Sql("CREATE TRIGGER Observations_no_delete BEFORE DELETE ON Observations BEGIN SELECT RAISE(ABORT, 'Observations: rows are only added'); END;");


            migrationBuilder.CreateIndex(
                name: "IX_Observations_DeviceId",
                table: "Observations",
                column: "DeviceId");
        }

        private static string Own(string table, string within) => $"{table}.{within.Replace("o.", table + ".")}";

        /// <inheritdoc />
        protected override void Down(MigrationBuilder migrationBuilder)
        {
            migrationBuilder.DropTable(
                name: "Observations");

            migrationBuilder.DropColumn(
                name: "CheckVersion",
                table: "Readings");

            migrationBuilder.DropColumn(
                name: "ObservationId",
                table: "Readings");

            migrationBuilder.DropColumn(
                name: "LeftAt",
                table: "People");

            migrationBuilder.DropColumn(
                name: "UnexpectedRefuses",
                table: "Jobs");

            migrationBuilder.DropColumn(
                name: "RetiredAt",
                table: "Instruments");

            migrationBuilder.DropColumn(
                name: "Signature",
                table: "Cards");

            migrationBuilder.DropColumn(
                name: "Unexpected",
                table: "Cards");

            migrationBuilder.AlterColumn<string>(
                name: "Serial",
                table: "Units",
                type: "TEXT",
                nullable: false,
                oldClrType: typeof(string),
                oldType: "TEXT",
                oldCollation: "NOCASE");

            migrationBuilder.AlterColumn<string>(
                name: "Label",
                table: "Sources",
                type: "TEXT",
                nullable: false,
                oldClrType: typeof(string),
                oldType: "TEXT",
                oldCollation: "NOCASE");

            migrationBuilder.AlterColumn<string>(
                name: "Label",
                table: "Runs",
                type: "TEXT",
                nullable: false,
                oldClrType: typeof(string),
                oldType: "TEXT",
                oldCollation: "NOCASE");

            migrationBuilder.AlterColumn<string>(
                name: "Switch",
                table: "Ports",
                type: "TEXT",
                nullable: false,
                oldClrType: typeof(string),
                oldType: "TEXT",
                oldCollation: "NOCASE");

            migrationBuilder.AlterColumn<string>(
                name: "Supply",
                table: "Devices",
                type: "TEXT",
                nullable: true,
                oldClrType: typeof(string),
                oldType: "TEXT",
                oldNullable: true,
                oldCollation: "NOCASE");

            migrationBuilder.AlterColumn<string>(
                name: "Label",
                table: "Devices",
                type: "TEXT",
                nullable: false,
                oldClrType: typeof(string),
                oldType: "TEXT",
                oldCollation: "NOCASE");

            migrationBuilder.AlterColumn<string>(
                name: "Label",
                table: "Cabinets",
                type: "TEXT",
                nullable: false,
                oldClrType: typeof(string),
                oldType: "TEXT",
                oldCollation: "NOCASE");

            migrationBuilder.AlterColumn<string>(
                name: "Name",
                table: "Areas",
                type: "TEXT",
                nullable: false,
                oldClrType: typeof(string),
                oldType: "TEXT",
                oldCollation: "NOCASE");
        }
    }
}
