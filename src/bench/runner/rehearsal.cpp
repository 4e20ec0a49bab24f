#include "bench/runner/rehearsal.h"

#include <utility>

#include <QCoreApplication>
#include <QDir>
#include <QFile>
#include <QTimer>
#include <nlohmann/json.hpp>

#include "bench/programs.h"
#include "bench/runner/end_signals.h"
#include "core/model/bank_json.h"

namespace otterstone::bench {

namespace {

constexpr int kPatience = 2000; // ms

Profile profileOf(const char* key) {
    for (const Profile& p : builtinProfiles()) {
        if (p.key == key)
            return p;
    }
    return {};
}

} // namespace

StandIn::StandIn(QObject* parent) : QObject(parent) {}

StandIn::~StandIn() {
    stop();
    for (QProcess* leaving : findChildren<QProcess*>()) {
        leaving->disconnect();
        if (!leaving->waitForFinished(kPatience))
            leaving->kill();
        leaving->waitForFinished(kPatience);
    }
}

QString StandIn::program() {
    if (qEnvironmentVariableIsSet("OTTERSTONE_STANDIN"))
        return qEnvironmentVariable("OTTERSTONE_STANDIN");
    return QString::fromStdString(programOfOurs("otterstone-standin"));
}

void StandIn::start(const Scene& scene) {
    stop();
    instruments_.clear();
    speed_ = scene.speed;
    // One that is still leaving has its names in a folder of its own.
    const QString folder = folder_.filePath(QString::number(++started_));
    QDir().mkpath(folder);
    const QString bank = folder + QStringLiteral("/bank.json");
    QFile file(bank);
    if (!file.open(QIODevice::WriteOnly) ||
        file.write(QByteArray::fromStdString(model::toJson(scene.bank).dump(1))) < 0) {
        Q_EMIT failed(tr("The stand-in's bank cannot be written: %1").arg(file.errorString()));
        return;
    }
    file.close();
    QStringList arguments{QStringLiteral("--until-closed"), QStringLiteral("--in-step"),
                          QStringLiteral("--bank"),         bank,
                          QStringLiteral("--folder"),       folder};
    const auto add = [&arguments](const char* option, const QString& value) {
        arguments << QLatin1String(option) << value;
    };
    add("--speed", QString::number(scene.speed));
    add("--rate", QString::number(scene.samplesPerSecond));
    add("--ambient", QString::number(scene.ambient));
    add("--cable-ohms", QString::number(scene.cableOhms));
    add("--charger-watts", QString::number(scene.chargerWatts));
    add("--seed", QString::number(scene.seed));
    if (!scene.chargerTiers.empty())
        add("--charger-tiers", QString::fromStdString(scene.chargerTiers));
    if (scene.meter.accuracyKnown())
        add("--meter", QString::fromStdString(path::showMeter(scene.meter)));
    if (!scene.empty && scene.charge < 1.0)
        add("--charge", QString::number(scene.charge));
    if (scene.empty)
        arguments << QStringLiteral("--empty");
    process_ = new QProcess(this);
    connect(process_, &QProcess::readyReadStandardOutput, this, &StandIn::heard);
    connect(process_, &QProcess::errorOccurred, this, [this](QProcess::ProcessError error) {
        if (error == QProcess::FailedToStart)
            Q_EMIT failed(
                tr("The stand-in cannot be started: %1 is not there. It comes with Otterstone; install it again.")
                    .arg(program()));
    });
    connect(process_, &QProcess::finished, this, [this](int code) {
        if (code != 0)
            Q_EMIT failed(
                tr("The stand-in ended: %1").arg(QString::fromUtf8(process_->readAllStandardError()).trimmed()));
    });
    process_->setChildProcessModifier(releaseEndSignals);
    process_->start(program(), arguments);
}

void StandIn::heard() {
    if (!process_->canReadLine())
        return;
    const auto where = nlohmann::json::parse(process_->readLine().toStdString(), nullptr, false);
    if (!where.is_object())
        return;
    const auto tcp = [&where](const char* key) {
        return Address{QStringLiteral("127.0.0.1:%1").arg(where.at(key).get<int>())};
    };
    instruments_ = {
        {role::meter, {profileOf("printing-meter"), {QString::fromStdString(where.at("meter"))}}},
        {role::inputMeter, {profileOf("printing-meter"), {QString::fromStdString(where.at("input_meter"))}}},
        {role::load, {profileOf("scpi-load"), tcp("load")}},
        {role::secondLoad, {profileOf("scpi-load"), tcp("second_load")}},
        {role::trigger, {profileOf("scpi-trigger"), tcp("trigger")}},
        {role::secondTrigger, {profileOf("scpi-trigger"), tcp("second_trigger")}},
        {role::thermometer, {profileOf("scpi-thermometer"), tcp("thermometer")}}};
    control_ = tcp("control").text;
    Q_EMIT ready();
}

// Nobody waits for it: it is told to end, and killed if it doesn't.
void StandIn::stop() {
    QProcess* leaving = std::exchange(process_, nullptr);
    if (!leaving)
        return;
    leaving->disconnect(this);
    if (leaving->state() == QProcess::NotRunning) {
        leaving->deleteLater();
        return;
    }
    connect(leaving, &QProcess::finished, leaving, &QObject::deleteLater);
    QTimer::singleShot(kPatience, leaving, &QProcess::kill);
    leaving->terminate();
}

} // namespace otterstone::bench
