using System;
using Microsoft.EntityFrameworkCore.Migrations;

#nullable disable

namespace Walkdown.Storage.Migrations
{
    /// <inheritdoc />
    public partial class Sources : Migration
    {
        /// <inheritdoc />
        protected override void Up(MigrationBuilder migrationBuilder)
        {
            migrationBuilder.AddColumn<string>(
                name: "PiecesJson",
                table: "Runs",
                type: "TEXT",
                nullable: true);

            migrationBuilder.AddColumn<string>(
                name: "SeenJson",
                table: "Readings",
                type: "TEXT",
                nullable: true);

            migrationBuilder.AddColumn<string>(
                name: "Priority",
                table: "Ports",
                type: "TEXT",
                nullable: false,
                defaultValue: "Low");

            migrationBuilder.AddColumn<bool>(
                name: "Uplink",
                table: "Ports",
                type: "INTEGER",
                nullable: false,
                defaultValue: false);

            migrationBuilder.AddColumn<string>(
                name: "CableEntry",
                table: "Devices",
                type: "TEXT",
                nullable: true);

            migrationBuilder.AddColumn<string>(
                name: "Mount",
                table: "Devices",
                type: "TEXT",
                nullable: true);

            migrationBuilder.AddColumn<double>(
                name: "SupplyMetres",
                table: "Devices",
                type: "REAL",
                nullable: true);

            migrationBuilder.AddColumn<bool>(
                name: "SwitchFirst",
                table: "Jobs",
                type: "INTEGER",
                nullable: false,
                defaultValue: false);

            migrationBuilder.CreateTable(
                name: "Sources",
                columns: table => new
                {
                    Id = table.Column<Guid>(type: "TEXT", nullable: false),
                    JobId = table.Column<Guid>(type: "TEXT", nullable: false),
                    Kind = table.Column<string>(type: "TEXT", nullable: false),
                    CabinetId = table.Column<Guid>(type: "TEXT", nullable: true),
                    Label = table.Column<string>(type: "TEXT", nullable: false),
                    Model = table.Column<string>(type: "TEXT", nullable: false),
                    Mode = table.Column<string>(type: "TEXT", nullable: false),
                    BudgetWatts = table.Column<double>(type: "REAL", nullable: true),
                    ReservePercent = table.Column<double>(type: "REAL", nullable: false),
                    PortLimitWatts = table.Column<double>(type: "REAL", nullable: true),
                    Range = table.Column<string>(type: "TEXT", nullable: false),
                    Volts = table.Column<double>(type: "REAL", nullable: true),
                    RegulationPercent = table.Column<double>(type: "REAL", nullable: false),
                    RatedAmperes = table.Column<double>(type: "REAL", nullable: true),
                    FuseAmperes = table.Column<double>(type: "REAL", nullable: true),
                    CableAmperes = table.Column<double>(type: "REAL", nullable: true),
                    WireGaugeAwg = table.Column<double>(type: "REAL", nullable: true),
                    WireAreaMm2 = table.Column<double>(type: "REAL", nullable: true),
                    TemperatureC = table.Column<double>(type: "REAL", nullable: true)
                },
                constraints: table =>
                {
                    table.PrimaryKey("PK_Sources", x => x.Id);
                });

            migrationBuilder.CreateIndex(
                name: "IX_Sources_JobId_Kind_CabinetId_Label",
                table: "Sources",
                columns: new[] { "JobId", "Kind", "CabinetId", "Label" },
                unique: true);

            // What was named until now in a port's and a device's own words is on record from here on.
            const string id = "upper(substr(h,1,8)||'-'||substr(h,9,4)||'-7'||substr(h,14,3)||'-8'||substr(h,18,3)||'-'||substr(h,21,12))";
            migrationBuilder.Sql($"""
                INSERT INTO Sources (Id, JobId, Kind, CabinetId, Label, Model, Mode, ReservePercent, Range, RegulationPercent)
                SELECT {id}, JobId, 'Switch', CabinetId, Switch, '', 'Standard', 0, 'V12Dc', 0 FROM
                    (SELECT hex(randomblob(16)) AS h, c.JobId, p.CabinetId, p.Switch FROM Ports p JOIN Cabinets c ON c.Id = p.CabinetId GROUP BY p.CabinetId, p.Switch);
                INSERT INTO Sources (Id, JobId, Kind, CabinetId, Label, Model, Mode, ReservePercent, Range, Volts, RegulationPercent)
                SELECT {id}, JobId, 'Supply', NULL, Supply, '', 'Standard', 0, 'V12Dc', 12, 0 FROM
                    (SELECT hex(randomblob(16)) AS h, JobId, Supply FROM Devices WHERE Supply IS NOT NULL AND Supply <> '' GROUP BY JobId, Supply);
                """);
        }

        /// <inheritdoc />
        protected override void Down(MigrationBuilder migrationBuilder)
        {
            migrationBuilder.DropTable(
                name: "Sources");

            migrationBuilder.DropColumn(
                name: "SwitchFirst",
                table: "Jobs");

            migrationBuilder.DropColumn(
                name: "PiecesJson",
                table: "Runs");

            migrationBuilder.DropColumn(
                name: "SeenJson",
                table: "Readings");

            migrationBuilder.DropColumn(
                name: "Priority",
                table: "Ports");

            migrationBuilder.DropColumn(
                name: "Uplink",
                table: "Ports");

            migrationBuilder.DropColumn(
                name: "CableEntry",
                table: "Devices");

            migrationBuilder.DropColumn(
                name: "Mount",
                table: "Devices");

            migrationBuilder.DropColumn(
                name: "SupplyMetres",
                table: "Devices");
        }
    }
}
