using System;
using Microsoft.EntityFrameworkCore.Migrations;

#nullable disable

namespace Walkdown.Storage.Migrations
{
    /// <inheritdoc />
    public partial class Site : Migration
    {
        /// <inheritdoc />
        protected override void Up(MigrationBuilder migrationBuilder)
        {
            // Every save pays for an index; the journal is read by its sequence anyway.
            migrationBuilder.DropIndex(
                name: "IX_Journal_JobId_Sequence",
                table: "Journal");

            migrationBuilder.DropIndex(
                name: "IX_Units_JobId_Serial",
                table: "Units");

            migrationBuilder.DropIndex(
                name: "IX_Ports_CabinetId_Number",
                table: "Ports");

            migrationBuilder.DropIndex(
                name: "IX_Channels_RecorderId_Number",
                table: "Channels");

            migrationBuilder.AddColumn<bool>(
                name: "LengthAssumed",
                table: "Runs",
                type: "INTEGER",
                nullable: false,
                defaultValue: false);

            migrationBuilder.AddColumn<string>(
                name: "Path",
                table: "Runs",
                type: "TEXT",
                nullable: true);

            migrationBuilder.AddColumn<string>(
                name: "Switch",
                table: "Ports",
                type: "TEXT",
                nullable: false,
                defaultValue: "");

            migrationBuilder.AddColumn<bool>(
                name: "Left",
                table: "People",
                type: "INTEGER",
                nullable: false,
                defaultValue: false);

            migrationBuilder.AddColumn<bool>(
                name: "MayWitness",
                table: "People",
                type: "INTEGER",
                nullable: false,
                defaultValue: false);

            migrationBuilder.AddColumn<bool>(
                name: "MatchFarEnd",
                table: "Jobs",
                type: "INTEGER",
                nullable: false,
                defaultValue: false);

            migrationBuilder.AddColumn<bool>(
                name: "BenchFirst",
                table: "Jobs",
                type: "INTEGER",
                nullable: false,
                defaultValue: false);

            migrationBuilder.AddColumn<string>(
                name: "Certificate",
                table: "Instruments",
                type: "TEXT",
                nullable: false,
                defaultValue: "");

            migrationBuilder.AddColumn<string>(
                name: "Kind",
                table: "Instruments",
                type: "TEXT",
                nullable: false,
                defaultValue: "");

            migrationBuilder.AddColumn<string>(
                name: "EarlierJson",
                table: "Instruments",
                type: "TEXT",
                nullable: false,
                defaultValue: "[]");

            migrationBuilder.AddColumn<bool>(
                name: "Retired",
                table: "Instruments",
                type: "INTEGER",
                nullable: false,
                defaultValue: false);

            migrationBuilder.AddColumn<bool>(
                name: "Cancelled",
                table: "Devices",
                type: "INTEGER",
                nullable: false,
                defaultValue: false);

            migrationBuilder.AddColumn<string>(
                name: "NotesJson",
                table: "Devices",
                type: "TEXT",
                nullable: true);

            migrationBuilder.AddColumn<string>(
                name: "PlannedJson",
                table: "Devices",
                type: "TEXT",
                nullable: true);

            migrationBuilder.AddColumn<string>(
                name: "Supply",
                table: "Devices",
                type: "TEXT",
                nullable: true);

            migrationBuilder.AddColumn<string>(
                name: "BlockJson",
                table: "Cards",
                type: "TEXT",
                nullable: true);

            migrationBuilder.AddColumn<Guid>(
                name: "FedFromId",
                table: "Cabinets",
                type: "TEXT",
                nullable: true);

            migrationBuilder.CreateTable(
                name: "Drawings",
                columns: table => new
                {
                    JobId = table.Column<Guid>(type: "TEXT", nullable: false),
                    Hash = table.Column<string>(type: "TEXT", nullable: false),
                    MediaType = table.Column<string>(type: "TEXT", nullable: false),
                    Name = table.Column<string>(type: "TEXT", nullable: false),
                    WidthPixels = table.Column<double>(type: "REAL", nullable: false),
                    HeightPixels = table.Column<double>(type: "REAL", nullable: false),
                    MetresPerPixel = table.Column<double>(type: "REAL", nullable: true),
                    LeftMetres = table.Column<double>(type: "REAL", nullable: false),
                    TopMetres = table.Column<double>(type: "REAL", nullable: false)
                },
                constraints: table =>
                {
                    table.PrimaryKey("PK_Drawings", x => x.JobId);
                });

            migrationBuilder.CreateTable(
                name: "Editions",
                columns: table => new
                {
                    Id = table.Column<Guid>(type: "TEXT", nullable: false),
                    Of = table.Column<string>(type: "TEXT", nullable: false),
                    Version = table.Column<int>(type: "INTEGER", nullable: false),
                    Json = table.Column<string>(type: "TEXT", nullable: false),
                    Why = table.Column<string>(type: "TEXT", nullable: false),
                    By = table.Column<string>(type: "TEXT", nullable: false),
                    At = table.Column<long>(type: "INTEGER", nullable: false)
                },
                constraints: table =>
                {
                    table.PrimaryKey("PK_Editions", x => x.Id);
                });

            migrationBuilder.CreateTable(
                name: "InstrumentChecks",
                columns: table => new
                {
                    Id = table.Column<Guid>(type: "TEXT", nullable: false),
                    JobId = table.Column<Guid>(type: "TEXT", nullable: false),
                    InstrumentId = table.Column<Guid>(type: "TEXT", nullable: false),
                    Unit = table.Column<string>(type: "TEXT", nullable: false),
                    Reference = table.Column<double>(type: "REAL", nullable: false),
                    Reading = table.Column<double>(type: "REAL", nullable: false),
                    By = table.Column<Guid>(type: "TEXT", nullable: false),
                    At = table.Column<long>(type: "INTEGER", nullable: false)
                },
                constraints: table =>
                {
                    table.PrimaryKey("PK_InstrumentChecks", x => x.Id);
                });

            migrationBuilder.CreateTable(
                name: "Memory",
                columns: table => new
                {
                    Key = table.Column<string>(type: "TEXT", nullable: false),
                    Value = table.Column<string>(type: "TEXT", nullable: false)
                },
                constraints: table =>
                {
                    table.PrimaryKey("PK_Memory", x => x.Key);
                });

            migrationBuilder.CreateTable(
                name: "RegisterChanges",
                columns: table => new
                {
                    Id = table.Column<Guid>(type: "TEXT", nullable: false),
                    JobId = table.Column<Guid>(type: "TEXT", nullable: false),
                    DeviceId = table.Column<Guid>(type: "TEXT", nullable: false),
                    Field = table.Column<string>(type: "TEXT", nullable: false),
                    From = table.Column<string>(type: "TEXT", nullable: true),
                    To = table.Column<string>(type: "TEXT", nullable: true),
                    AsBuilt = table.Column<bool>(type: "INTEGER", nullable: false),
                    Why = table.Column<string>(type: "TEXT", nullable: true),
                    By = table.Column<Guid>(type: "TEXT", nullable: true),
                    At = table.Column<long>(type: "INTEGER", nullable: false),
                    Sequence = table.Column<long>(type: "INTEGER", nullable: false)
                },
                constraints: table =>
                {
                    table.PrimaryKey("PK_RegisterChanges", x => x.Id);
                });

            migrationBuilder.CreateIndex(
                name: "IX_Units_JobId_Serial",
                table: "Units",
                columns: new[] { "JobId", "Serial" },
                unique: true,
                filter: "Serial <> ''");

            migrationBuilder.CreateIndex(
                name: "IX_Ports_CabinetId_Switch_Number",
                table: "Ports",
                columns: new[] { "CabinetId", "Switch", "Number" },
                unique: true);

            migrationBuilder.CreateIndex(
                name: "IX_Channels_RecorderId_Number",
                table: "Channels",
                columns: new[] { "RecorderId", "Number" });

            migrationBuilder.CreateIndex(
                name: "IX_Editions_Of_Version",
                table: "Editions",
                columns: new[] { "Of", "Version" },
                unique: true);

            migrationBuilder.CreateIndex(
                name: "IX_InstrumentChecks_InstrumentId",
                table: "InstrumentChecks",
                column: "InstrumentId");

            migrationBuilder.CreateIndex(
                name: "IX_RegisterChanges_DeviceId",
                table: "RegisterChanges",
                column: "DeviceId");

            // Cards are summaries: those of the edition before are made anew at the start.
            migrationBuilder.Sql("DELETE FROM Cards;");
            foreach (var table in new[] { "RegisterChanges", "InstrumentChecks", "Editions" })
            {
                migrationBuilder.Sql($"CREATE TRIGGER {table}_no_update BEFORE UPDATE ON {table} BEGIN SELECT RAISE(ABORT, '{table}: rows are only added'); END;");
                migrationBuilder.Sql($"CREATE TRIGGER {table}_no_delete BEFORE DELETE ON {table} BEGIN SELECT RAISE(ABORT, '{table}: rows are only added'); END;");
            }
        }

        /// <inheritdoc />
        protected override void Down(MigrationBuilder migrationBuilder)
        {
            migrationBuilder.CreateIndex(
                name: "IX_Journal_JobId_Sequence",
                table: "Journal",
                columns: new[] { "JobId", "Sequence" });

            migrationBuilder.DropTable(
                name: "Drawings");

            migrationBuilder.DropTable(
                name: "Editions");

            migrationBuilder.DropTable(
                name: "InstrumentChecks");

            migrationBuilder.DropTable(
                name: "Memory");

            migrationBuilder.DropTable(
                name: "RegisterChanges");

            migrationBuilder.DropIndex(
                name: "IX_Units_JobId_Serial",
                table: "Units");

            migrationBuilder.DropIndex(
                name: "IX_Ports_CabinetId_Switch_Number",
                table: "Ports");

            migrationBuilder.DropIndex(
                name: "IX_Channels_RecorderId_Number",
                table: "Channels");

            migrationBuilder.DropColumn(
                name: "LengthAssumed",
                table: "Runs");

            migrationBuilder.DropColumn(
                name: "Path",
                table: "Runs");

            migrationBuilder.DropColumn(
                name: "Switch",
                table: "Ports");

            migrationBuilder.DropColumn(
                name: "Left",
                table: "People");

            migrationBuilder.DropColumn(
                name: "MayWitness",
                table: "People");

            migrationBuilder.DropColumn(
                name: "MatchFarEnd",
                table: "Jobs");

            migrationBuilder.DropColumn(
                name: "BenchFirst",
                table: "Jobs");

            migrationBuilder.DropColumn(
                name: "Certificate",
                table: "Instruments");

            migrationBuilder.DropColumn(
                name: "Kind",
                table: "Instruments");

            migrationBuilder.DropColumn(
                name: "EarlierJson",
                table: "Instruments");

            migrationBuilder.DropColumn(
                name: "Retired",
                table: "Instruments");

            migrationBuilder.DropColumn(
                name: "Cancelled",
                table: "Devices");

            migrationBuilder.DropColumn(
                name: "NotesJson",
                table: "Devices");

            migrationBuilder.DropColumn(
                name: "PlannedJson",
                table: "Devices");

            migrationBuilder.DropColumn(
                name: "Supply",
                table: "Devices");

            migrationBuilder.DropColumn(
                name: "BlockJson",
                table: "Cards");

            migrationBuilder.DropColumn(
                name: "FedFromId",
                table: "Cabinets");

            migrationBuilder.CreateIndex(
                name: "IX_Units_JobId_Serial",
                table: "Units",
                columns: new[] { "JobId", "Serial" },
                unique: true);

            migrationBuilder.CreateIndex(
                name: "IX_Ports_CabinetId_Number",
                table: "Ports",
                columns: new[] { "CabinetId", "Number" },
                unique: true);

            migrationBuilder.CreateIndex(
                name: "IX_Channels_RecorderId_Number",
                table: "Channels",
                columns: new[] { "RecorderId", "Number" },
                unique: true);
        }
    }
}
